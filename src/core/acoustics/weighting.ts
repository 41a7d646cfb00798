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

/** Noise weighting of ITU-R BS.468-4 in dB, by the polynomial of its network (from memory). */
export function weight468(frequency: number): number {
  const f = frequency;
  const h1 = -4.737338981378384e-24 * f ** 6 + 2.043828333606125e-15 * f ** 4 - 1.363894795463638e-7 * f ** 2 + 1;
  const h2 = 1.306612257412824e-19 * f ** 5 - 2.118150887518656e-11 * f ** 3 + 5.559488023498642e-4 * f;
  return 18.246 + 20 * Math.log10((1.246332637532143e-4 * f) / Math.hypot(h1, h2));
}

/** Importance of third-octave bands for understanding speech: ANSI S3.5-1997 table 3 (from memory); they add up to one. */
export const SPEECH_IMPORTANCE: readonly (readonly [frequency: number, share: number])[] = [
  [160, 0.0083],
  [200, 0.0095],
  [250, 0.015],
  [315, 0.0289],
  [400, 0.044],
  [500, 0.0578],
  [630, 0.0653],
  [800, 0.0711],
  [1000, 0.0818],
  [1250, 0.0844],
  [1600, 0.0882],
  [2000, 0.0898],
  [2500, 0.0868],
  [3150, 0.0844],
  [4000, 0.0771],
  [5000, 0.0527],
  [6300, 0.0364],
  [8000, 0.0185],
];

interface Band {
  frequency: number;
  level: number;
}

/** Level of a third-octave spectrum in dB with a weighting. */
export const weightedLevel = (spectrum: readonly Band[], weight: (frequency: number) => number): number =>
  10 * Math.log10(spectrum.reduce((s, b) => s + 10 ** ((b.level + weight(b.frequency)) / 10), 0));

/**
 * Level difference of two spectra in dB as it counts for speech: each band's difference is held within
 * ±15 dB, as the speech intelligibility index does, and weighted by the band's importance. Bands that
 * either spectrum lacks do not count.
 */
export function speechAdvantage(voice: readonly Band[], background: readonly Band[]): number {
  let [sum, shares] = [0, 0];
  for (const [frequency, share] of SPEECH_IMPORTANCE) {
    const v = voice.find((b) => b.frequency === frequency);
    const b = background.find((o) => o.frequency === frequency);
    if (!v || !b || v.level === -Infinity) continue;
    const difference = b.level === -Infinity ? 15 : v.level - b.level;
    sum += share * Math.min(15, Math.max(-15, difference));
    shares += share;
  }
  return shares > 0 ? sum / shares : 0;
}
