import { joinedName } from '@/core/files';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { sampleToTimecode, frameRate, timecodeToFrames } from '@/core/units';
import { orderOf, type Deliverable, type MediaRef, type SessionDoc } from '@/core/session';

export const NAME_TOKENS = ['session', 'bus', 'layout', 'order', 'start', 'version'] as const;

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

/** File name of a deliverable, without path. Throws RangeError for an unknown token. */
export function printName(doc: SessionDoc, d: Deliverable, start: number, version: number): string {
  const values: Record<string, string> = {
    session: doc.code,
    bus: d.token,
    layout: layoutOf(d.layout).code,
    order: orderOf(doc, d),
    start: startToken(doc, start),
    version: String(version).padStart(2, '0'),
  };
  const name = doc.namePattern.replace(/\{(\w+)\}/g, (_, token: string) => {
    const value = values[token];
    if (value === undefined)
      throw new RangeError(
        `the name pattern holds "{${token}}"; known are ${NAME_TOKENS.map((t) => `{${t}}`).join(' ')}`,
      );
    return value;
  });
  return formName(doc, safeName(name), channelNames(d.layout));
}

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
        return [plainName(printName(doc, d, 0, 1))];
      } catch {
        // A pattern that cannot be read is told by the brief.
        return [];
      }
    }),
  );
  return Object.values(doc.media).filter((m) => m.kind === 'file' && names.has(plainName(m.name)));
}
