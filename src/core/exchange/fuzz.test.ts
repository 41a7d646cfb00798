// Lists and timelines with faults: read or refused with the place, nothing else. FUZZ_RUNS sets how many.
import { expect, it } from 'vitest';
import { mutate, random } from '../../../tests/support/mutate';
import { monoTrack, mono, sessionWith } from '../../../tests/support/session';
import {
  ExchangeFault,
  readCueList,
  readEdl,
  readOtio,
  readSrt,
  readVtt,
  sessionTimeline,
  writeCueList,
  writeEdl,
  writeOtio,
  writeSrt,
  writeVtt,
  type ListedCue,
} from '.';

const RUNS = Number(process.env.FUZZ_RUNS ?? 2000);
const timeline = sessionTimeline(
  sessionWith(monoTrack('a', 'Voice'), {
    ...{ type: 'addClip', id: 'c', track: 'a', start: 480, media: mono('m', 48_000) },
  }),
);
const cues: ListedCue[] = [
  { number: '1', start: 1, end: 2.5, speaker: 'Pilot', text: 'Mind the gauge, "now".' },
  { number: '2', start: 3, end: 4, speaker: '', text: 'Two\nlines & <one> more' },
];
const times = { frameRate: '25', startFrames: 0 } as const;
const KINDS: readonly [string, string, (text: string) => unknown][] = [
  ['OTIO', writeOtio(timeline), (t) => readOtio(t, 48_000)],
  ['EDL', writeEdl(timeline), (t) => readEdl(t, '25', 48_000, 0)],
  ['SRT', writeSrt(cues), readSrt],
  ['VTT', writeVtt(cues), readVtt],
  ['CSV', writeCueList(cues, times), (t) => readCueList(t, times)],
];

it.each(KINDS)(`%s: ${RUNS} with faults are read or refused`, (_, good, read) => {
  const bytes = new TextEncoder().encode(good);
  read(good);
  let refused = 0;
  for (let run = 0; run < RUNS; run++) {
    const text = new TextDecoder().decode(mutate(bytes, random(run + 1)));
    try {
      read(text);
    } catch (error) {
      if (!(error instanceof ExchangeFault)) throw new Error(`run ${run}: ${(error as Error).stack}`, { cause: error });
      refused++;
    }
  }
  expect(refused).toBeLessThan(RUNS);
});
