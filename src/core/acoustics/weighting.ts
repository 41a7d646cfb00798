/**
 * Frequency weightings in dB relative to 1 kHz. A and C: the analytic forms of IEC 61672-1 annex E, poles at
 * 20.598997, 107.65265, 737.86223 and 12194.217 Hz. `frequency` in Hz.
 */
const F1 = 20.598997 ** 2;
const F2 = 107.65265 ** 2;
const F3 = 737.86223 ** 2;
const F4 = 12194.217 ** 2;

const rawA = (f2: number): number => (F4 * f2 * f2) / ((f2 + F1) * Math.sqrt((f2 + F2) * (f2 + F3)) * (f2 + F4));
const rawC = (f2: number): number => (F4 * f2) / ((f2 + F1) * (f2 + F4));
const relative = (raw: (f2: number) => number, frequency: number): number =>
  20 * Math.log10(raw(frequency ** 2) / raw(1e6));

export const weightA = (frequency: number): number => relative(rawA, frequency);
export const weightC = (frequency: number): number => relative(rawC, frequency);
