// For display and input only; gains that reach a sample come from the kernels.

/** 20 log10 |x|; 0 gives -Infinity. */
export const toDb = (x: number): number => 20 * Math.log10(Math.abs(x));

/** "-12.0", "+3.5", "0.0"; below -144 dB (24 bits' floor) or not finite: "–∞". */
export function formatDb(db: number, digits = 1, plus = false): string {
  if (!(db > -144)) return '–∞';
  const text = Math.abs(db).toFixed(digits);
  if (Number(text) === 0) return text;
  return (db < 0 ? '-' : plus ? '+' : '') + text;
}
