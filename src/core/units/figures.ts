// Figures that JSON has no words for: the level of silence is -Infinity, and JSON.stringify makes it null, which reads
// as 0 dB. Wherever facts are stored or sent they go as {"figure": "-inf"} and come back as what they were.

const WORDS: Readonly<Record<string, number>> = { '-inf': -Infinity, '+inf': Infinity, nan: NaN };

const word = (n: number): string => (Number.isNaN(n) ? 'nan' : n < 0 ? '-inf' : '+inf');

/** JSON of facts; figures that are not finite are kept. */
export const stringifyFigures = (value: unknown, space?: number): string =>
  JSON.stringify(
    value,
    (_key, v: unknown) => (typeof v === 'number' && !Number.isFinite(v) ? { figure: word(v) } : v),
    space,
  );

function revived(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const { figure } = value as { figure?: unknown };
  if (typeof figure !== 'string' || Object.keys(value).length !== 1) return value;
  return Object.hasOwn(WORDS, figure) ? WORDS[figure] : value;
}

/** What `stringifyFigures` wrote. */
export const parseFigures = (text: string): unknown =>
  // Most answers hold none: those are read at full speed.
  text.includes('"figure"') ? JSON.parse(text, (_key, value: unknown) => revived(value)) : JSON.parse(text);

/** The same for what was parsed already, as a database does. */
export function reviveFigures(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(reviveFigures);
  if (typeof value !== 'object' || value === null) return value;
  const found = revived(value);
  return found === value ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, reviveFigures(v)])) : found;
}
