/** Reads a typed number with an optional unit and decimal comma: "-12", "−12,5 dB", "+3". NaN when it is none. */
export function parseNumber(text: string): number {
  const plain = text.trim().replace(/[−–]/g, '-').replace(',', '.');
  if (/^-?(∞|inf)/i.test(plain)) return plain.startsWith('-') ? -Infinity : Infinity;
  const match = /^([+-]?\d*\.?\d+)\s*(k?)/i.exec(plain);
  if (!match) return NaN;
  return Number(match[1]) * (match[2] ? 1000 : 1);
}

/**
 * A typed figure with nothing behind it but its unit, or none ("-3", "-3 dB", "1,5k"); NaN for anything else, so that a word is
 * no figure.
 */
export function readFigure(text: string, unit = ''): number {
  const plain = text.trim();
  const own = unit.trim().toLowerCase();
  const bare = own && plain.toLowerCase().endsWith(own) ? plain.slice(0, -own.length).trim() : plain;
  return /^[+\-−–]?(\d+([.,]\d*)?|[.,]\d+)\s*k?$/i.test(bare) || /^[+\-−–]?(∞|inf)$/i.test(bare)
    ? parseNumber(bare)
    : NaN;
}

/** "1:23.4" of seconds. */
export function formatDuration(seconds: number): string {
  const s = Math.max(0, seconds);
  const m = Math.floor(s / 60);
  return `${m}:${(s - m * 60).toFixed(1).padStart(4, '0')}`;
}

/** "74.2 MB" of bytes (decimal units). */
export function formatBytes(bytes: number): string {
  if (bytes < 1e6) return `${(bytes / 1e3).toFixed(0)} kB`;
  if (bytes < 1e9) return `${(bytes / 1e6).toFixed(1)} MB`;
  return `${(bytes / 1e9).toFixed(2)} GB`;
}
