import { create } from 'zustand';

export type Lens = 'place' | 'ports' | 'calibrate' | 'listen';

export const LENSES: readonly { value: Lens; label: string }[] = [
  { value: 'place', label: 'Place' },
  { value: 'ports', label: 'Ports' },
  { value: 'calibrate', label: 'Calibrate' },
  { value: 'listen', label: 'Listen' },
];

/** Which part of the place is shown. */
export const useLens = create<{ lens: Lens }>(() => ({ lens: 'place' }));

export const showLens = (lens: Lens): void => useLens.setState({ lens });
