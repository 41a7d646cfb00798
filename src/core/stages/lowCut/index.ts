import { cutStage } from '../cut';

/** High-pass. 70 Hz suits voices (common practice). */
export const lowCut = cutStage({
  type: 'lowCut',
  name: 'Low cut',
  frequency: { min: 20, max: 400, default: 70 },
  presets: [
    { name: 'Voice', values: { frequency: 70, slope: 12 } },
    { name: 'Voice, rumbling room', values: { frequency: 90, slope: 24 } },
  ],
  design: (k) => k.x.designLowCut,
});
