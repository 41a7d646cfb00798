/** Seconds as hh:mm:ss and thousandths; `point` stands before them. */
export function formatCueTime(seconds: number, point: ',' | '.'): string {
  const ms = Math.max(0, Math.round(seconds * 1000));
  const two = (n: number) => String(n).padStart(2, '0');
  return `${two(Math.floor(ms / 3_600_000))}:${two(Math.floor(ms / 60_000) % 60)}:${two(Math.floor(ms / 1000) % 60)}${point}${String(ms % 1000).padStart(3, '0')}`;
}

/** Seconds of "hh:mm:ss,mmm" or "mm:ss.mmm"; null when it is none. */
export function parseCueTime(text: string): number | null {
  const m = /^(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})$/.exec(text.trim());
  if (!m || Number(m[2]) > 59 || Number(m[3]) > 59) return null;
  const thousandths = Number(m[4]!.padEnd(3, '0'));
  return (Number(m[1] ?? 0) * 3_600_000 + Number(m[2]) * 60_000 + Number(m[3]) * 1000 + thousandths) / 1000;
}
