import {
  frameRate,
  frameToSample,
  sampleToTimecode,
  timecodeToFrames,
  timecodeToSample,
  type FrameRateId,
} from '@/core/units';
import type { SessionDoc } from './document';
import type { EditJson } from './edits';

/** What another frame rate means for a session with material. */
export interface FrameRateChange {
  /** In sentences. */
  told: string[];
  /** Edits that change the rate and leave everything at its time: timecodes are read anew. */
  keepTimes: EditJson[];
  /**
   * Edits that also move cues, markers and the range to where their timecodes stand at the new rate; null: some timecode
   * does not exist there.
   */
  keepTimecodes: EditJson[] | null;
}

const MOST_TOLD = 3;

/** What becomes of a session whose timecode is counted at another frame rate. Throws RangeError for an unknown rate. */
export function frameRateChange(doc: SessionDoc, to: FrameRateId): FrameRateChange {
  const { sampleRate, startTimecode, frameRate: from } = doc.format;
  const [before, after] = [frameRate(from), frameRate(to)];
  // A start of the one kind of timecode is written with its sign, and read with the other.
  const start = after.drop ? startTimecode.replace(/:(\d\d)$/, ';$1') : startTimecode.replace(';', ':');
  const [zero, newZero] = [timecodeToFrames(startTimecode, before), timecodeToFrames(start, after)];
  const was = (sample: number) => sampleToTimecode(sample, zero, before, sampleRate);
  const is = (sample: number) => sampleToTimecode(sample, newZero, after, sampleRate);
  const moved = (sample: number): number => {
    const text = was(sample);
    const at = timecodeToSample(
      after.drop ? text.replace(/:(\d\d)$/, ';$1') : text.replace(';', ':'),
      newZero,
      after,
      sampleRate,
    );
    // What stood between two frames stands as far behind its own.
    return at + sample - frameToSample(timecodeToFrames(text, before) - zero, before, sampleRate);
  };
  const cues = doc.cues.filter((c) => is(c.start) !== was(c.start));
  const examples = cues.slice(0, MOST_TOLD).map((c) => `cue ${c.number} ${was(c.start)} becomes ${is(c.start)}`);
  const change: EditJson = { type: 'setFormat', frameRate: to, startTimecode: start };
  let keepTimecodes: EditJson[] | null;
  try {
    keepTimecodes = [
      change,
      ...doc.cues.map((c): EditJson => ({ type: 'setCue', cue: c.id, start: moved(c.start), end: moved(c.end) })),
      ...doc.markers.map((m): EditJson => ({ type: 'setMarker', marker: m.id, at: moved(m.at), name: m.name })),
      { type: 'setRange', start: moved(doc.range.start), end: moved(doc.range.end) },
    ];
  } catch {
    keepTimecodes = null;
  }
  return {
    told: [
      `Clips, takes and the picture stay at their times: nothing of the sound moves.`,
      ...(cues.length > 0
        ? [
            `Timecodes are counted at ${after.label}: ${examples.join('; ')}${cues.length > MOST_TOLD ? `, and ${cues.length - MOST_TOLD} more` : ''}.`,
          ]
        : [`Timecodes are counted at ${after.label}.`]),
      ...(doc.picture?.rate ? [`The picture runs at ${pictureRate(doc.picture.rate)} as before.`] : []),
      'Files that were recorded keep the frame rate that is written in them; their start in samples stays true.',
    ],
    keepTimes: [change],
    keepTimecodes,
  };
}

function pictureRate(rate: string): string {
  const [num = 0, den = 1] = rate.split('/').map(Number);
  return `${Number((num / den).toFixed(3))} fps`;
}
