import { layoutOf } from '@/core/speakers';
import { sampleToTimecode, frameRate, timecodeToFrames } from '@/core/units';
import type { Deliverable, SessionDoc } from '@/core/session';

export const NAME_TOKENS = ['session', 'bus', 'layout', 'start', 'version'] as const;

/** What may stand in a file name on every system. */
export const safeName = (text: string): string =>
  text.replace(/[^\w.-]+/g, '-').replace(/^[-.]+|-+$/g, '') || 'unnamed';

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
  return `${safeName(name)}.wav`;
}
