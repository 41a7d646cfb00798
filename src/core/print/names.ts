import { joinedName } from '@/core/files';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { sampleToTimecode, frameRate, timecodeToFrames } from '@/core/units';
import {
  wordLengthOf,
  inFormOf,
  orderOf,
  rateOf,
  type Deliverable,
  type MediaRef,
  type SessionDoc,
} from '@/core/session';
import { printRanges, type PrintRange } from './ranges';

export const NAME_TOKENS = [
  ...(['session', 'bus', 'layout', 'order', 'rate', 'bits', 'language', 'range', 'start', 'date', 'version'] as const),
];

/** What may stand in a file name on every system. */
export const safeName = (text: string): string =>
  text.replace(/[^\w.-]+/g, '-').replace(/^[-.]+|-+$/g, '') || 'unnamed';

/** Whether a session's files lie on disk as they are written while sound runs: interleaved Broadcast WAV. */
export const plainForm = ({ format }: SessionDoc): boolean => format.fileKind === 'Broadcast WAV' && !format.perChannel;

/** Name of a file in the form the session asks for; one name in braces where it is a file a channel (see partNames). */
export function formName({ format }: SessionDoc, stem: string, channels: readonly string[]): string {
  const extension = format.fileKind === 'AIFF' ? '.aif' : '.wav';
  return joinedName(stem, format.perChannel ? channels : [], extension);
}

/** What the channels of a layout are called in file names. */
export const channelNames = (layout: LayoutId): string[] => layoutOf(layout).speakers.map((s) => s.label);

/** "100000" of 10:00:00:00 (hours, minutes, seconds). */
export function startToken(doc: SessionDoc, sample: number): string {
  const rate = frameRate(doc.format.frameRate);
  const tc = sampleToTimecode(sample, timecodeToFrames(doc.format.startTimecode, rate), rate, doc.format.sampleRate);
  return tc.slice(0, 8).replace(/\D/g, '');
}

/** What a file name may tell beside the session and the file itself. */
export interface NameFacts {
  version: number;
  range: PrintRange;
  /** ISO time at which it is made. */
  made: string;
}

/** "48k", "44k1" of a rate in Hz. */
const rateToken = (rate: number): string => {
  const [whole, part] = String(rate / 1000).split('.');
  return `${whole}k${part ?? ''}`;
};

/**
 * File name of a deliverable, without path. Throws RangeError for a token that is unknown or not closed, and for one of which
 * the session tells nothing.
 */
export function printName(doc: SessionDoc, d: Deliverable, { version, range, made }: NameFacts): string {
  const bits = wordLengthOf(doc, d);
  const values: Record<(typeof NAME_TOKENS)[number], string> = {
    session: doc.code,
    bus: d.token,
    layout: layoutOf(d.layout).code,
    order: orderOf(doc, d),
    rate: rateToken(rateOf(doc, d)),
    bits: bits === 32 ? '32f' : String(bits),
    language: doc.language ?? '',
    range: range.name === '' ? 'all' : range.name,
    start: startToken(doc, range.start),
    date: made.slice(0, 10).replaceAll('-', ''),
    version: String(version).padStart(2, '0'),
  };
  const known = NAME_TOKENS.map((t) => `{${t}}`).join(' ');
  const name = doc.namePattern.replace(/\{(\w*)\}/g, (whole, token: string) => {
    const value = Object.hasOwn(values, token) ? values[token as keyof typeof values] : undefined;
    if (value === undefined) throw new RangeError(`the name pattern holds "${whole}"; known are ${known}`);
    if (value === '')
      throw new RangeError(`the name pattern holds "${whole}", and the session tells no ${token}; tell it in Print`);
    return value;
  });
  const brace = /[{}].{0,12}/.exec(name)?.[0];
  if (brace) throw new RangeError(`the name pattern holds "${brace}", a brace without its other one`);
  const { letters } = doc.printing ?? {};
  const safe = safeName(name);
  const cased = letters === 'lower' ? safe.toLowerCase() : letters === 'upper' ? safe.toUpperCase() : safe;
  return formName(inFormOf(doc, d), cased, channelNames(d.layout));
}

/** The same for the first range of a print, as an example while it is not printed. */
export const exampleName = (doc: SessionDoc, d: Deliverable, version = 1, made = new Date().toISOString()): string =>
  printName(doc, d, { version, range: printRanges(doc)[0] ?? { name: '', ...doc.range }, made });

/** Stands for any number or timecode in a name while it is compared. */
const ANY = '0000';

const plainName = (name: string): string =>
  safeName(name.replace(/\.\w+$/, ''))
    .replace(/\{.*\}/, '')
    .replace(/-\d+$/, '')
    .replace(/\d+/g, ANY)
    .toLowerCase();

/** Files that are called like a print of this session, of whatever version and start, brought in under its own name. */
export function printsAmong(doc: SessionDoc): MediaRef[] {
  const names = new Set(
    doc.deliverables.flatMap((d) => {
      try {
        return [plainName(exampleName(doc, d))];
      } catch {
        // A pattern that cannot be read is told by the brief.
        return [];
      }
    }),
  );
  return Object.values(doc.media).filter((m) => m.kind === 'file' && names.has(plainName(m.name)));
}
