import Papa from 'papaparse';
import type { SessionDoc, Track } from '@/core/session';
import { frameRate, sampleToTimecode, timecodeToFrames } from '@/core/units';

/** Takes of tracks with what was noted of them (RFC 4180). */
export function takeTable(doc: SessionDoc, tracks: readonly Track[]): string {
  const rate = frameRate(doc.format.frameRate);
  const zero = timecodeToFrames(doc.format.startTimecode, rate);
  const tc = (sample: number) => sampleToTimecode(sample, zero, rate, doc.format.sampleRate);
  const cue = (id: string | undefined) => doc.cues.find((c) => c.id === id)?.number ?? '';
  return Papa.unparse(
    {
      fields: ['track', 'take', 'cue', 'in', 'out', 'circled', 'rating', 'note', 'recorded', 'file', 'untouched file'],
      data: tracks.flatMap((t) =>
        t.takes.map((k) => [
          t.name,
          k.number,
          cue(k.cue),
          tc(k.start),
          tc(k.start + k.length),
          k.circled ? 'yes' : '',
          k.rating ?? '',
          k.note ?? '',
          k.recordedAt,
          doc.media[k.media]?.name ?? '',
          k.dryMedia ? (doc.media[k.dryMedia]?.name ?? '') : '',
        ]),
      ),
    },
    { escapeFormulae: /^[=+@]/ },
  );
}
