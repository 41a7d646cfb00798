import { ExchangeFault } from './timeline';

/** Ways in which texts are written in bytes, as the Encoding Standard (WHATWG) names them, and what people call them. */
export const LETTERS = [
  { id: 'utf-8', name: 'UTF-8' },
  { id: 'utf-16le', name: 'UTF-16' },
  { id: 'utf-16be', name: 'UTF-16, the other way round' },
  { id: 'windows-1252', name: 'Western (Windows 1252)' },
  { id: 'macintosh', name: 'Western (Mac Roman)' },
  { id: 'windows-1250', name: 'Central European (Windows 1250)' },
  { id: 'windows-1251', name: 'Cyrillic (Windows 1251)' },
] as const;
export type Letters = (typeof LETTERS)[number]['id'];

/** Files that hold no plain text, by how they begin. */
const OTHERS: readonly [RegExp, string][] = [
  [/^PK\x03\x04/, 'a document of a word processor, a spreadsheet or an archive'],
  [/^%PDF/, 'a PDF'],
  [/^\{\\rtf/, 'a document with formatting (RTF)'],
  [/^\xd0\xcf\x11\xe0/, 'a document of a word processor or a spreadsheet'],
  [/^(RIFF|RF64|FORM|ID3|fLaC)/, 'a sound'],
  [/^\s*<(!doctype|html|\?xml)/i, 'a web page or XML'],
];

/** 0x80 to 0x9f of Windows 1252 (Encoding Standard, index windows-1252): some decoders leave them as control signs. */
const UPPER = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

function decoded(bytes: Uint8Array, letters: Letters): string {
  const text = new TextDecoder(letters).decode(bytes);
  return letters === 'windows-1252' ? text.replace(/[\u0080-\u009f]/g, (c) => UPPER[c.charCodeAt(0) - 0x80]!) : text;
}

/** In which letters a text is written: by its mark, else UTF-8 where that fits, else Western. */
export function lettersOf(bytes: Uint8Array): Letters {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const even = bytes.subarray(0, 400).filter((b, i) => i % 2 === 0 && b === 0).length;
  const odd = bytes.subarray(0, 400).filter((b, i) => i % 2 === 1 && b === 0).length;
  const most = Math.min(400, bytes.length) / 5;
  if (odd > most && even < odd / 4) return 'utf-16le';
  if (even > most && odd < even / 4) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/**
 * The text of a file, in the given letters or those it seems to be written in. Throws ExchangeFault that says what the
 * file is, where it is none.
 */
export function readLetters(bytes: Uint8Array, letters: Letters = lettersOf(bytes)): string {
  const head = String.fromCharCode(...bytes.subarray(0, 64));
  const other = OTHERS.find(([begins]) => begins.test(head));
  if (other)
    throw new ExchangeFault(
      `This is ${other[1]}, not a text. Save or copy the script as plain text, CSV, SRT or WebVTT.`,
    );
  const text = decoded(bytes, letters);
  // No text holds these; a file in other letters than was thought does.
  const strange = text.slice(0, 4000).match(/[\u0000-\u0008\u000e-\u001f]/g)?.length ?? 0;
  if (strange > 4)
    throw new ExchangeFault(
      'This is no text, or it is written in other letters. Choose other letters, or another file.',
    );
  return text;
}
