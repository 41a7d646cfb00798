import { cutStage } from '../cut';

/** Low-pass. */
export const highCut = cutStage({
  type: 'highCut',
  name: 'High cut',
  frequency: { min: 500, max: 22000, default: 12000 },
  presets: [
    { name: 'Hiss', values: { frequency: 14000, slope: 12 } },
    { name: 'Behind a door', values: { frequency: 1200, slope: 24 } },
  ],
  design: (k) => k.x.designHighCut,
});
