import { describe, expect, it } from 'vitest';
import { applied, sessionWith } from '../../../tests/support/session';
import { frameRateChange, type SessionDoc } from '.';
import { sampleToTimecode, frameRate, timecodeToFrames } from '@/core/units';

const doc = sessionWith(
  {
    type: 'addCues',
    cues: [
      // 10:00:00:12 and 10:01:00:00 at 25 frames a second.
      { id: 'a', number: '1', start: 23_040, end: 48_000, character: '', text: '' },
      { id: 'b', number: '2', start: 60 * 48_000, end: 61 * 48_000, character: '', text: '' },
    ],
  },
  { type: 'setMarker', marker: 'm', at: 23_040, name: 'M' },
);
const read = (d: SessionDoc, sample: number) => {
  const rate = frameRate(d.format.frameRate);
  return sampleToTimecode(sample, timecodeToFrames(d.format.startTimecode, rate), rate, d.format.sampleRate);
};
const cue = (d: SessionDoc, id: string) => d.cues.find((c) => c.id === id)!.start;

describe('another frame rate', () => {
  it('leaves everything at its time, and says which timecodes are read anew', () => {
    const { told, keepTimes } = frameRateChange(doc, '24');
    // 0.48 s are 11.52 frames of 24.
    expect(told.join('\n')).toContain('cue 1 10:00:00:12 becomes 10:00:00:11');
    const after = applied(doc, ...keepTimes);
    expect([cue(after, 'a'), cue(after, 'b')]).toEqual([cue(doc, 'a'), cue(doc, 'b')]);
    expect(after.format).toMatchObject({ frameRate: '24', startTimecode: '10:00:00:00' });
  });
  it('or keeps timecodes, and moves cues, markers and range to them', () => {
    const after = applied(doc, ...frameRateChange(doc, '24').keepTimecodes!);
    expect(read(after, cue(after, 'a'))).toBe('10:00:00:12');
    expect(cue(after, 'a')).toBe(24_000);
    expect(after.markers[0]!.at).toBe(24_000);
    expect(cue(after, 'b')).toBe(cue(doc, 'b'));
    expect(read(after, after.range.end)).toBe(read(doc, doc.range.end));
  });
  it('cannot keep a timecode that does not exist there', () => {
    // SMPTE ST 12-1: frames 0 and 1 of each minute but each tenth are left out.
    const { keepTimecodes, told } = frameRateChange(doc, '29.97df');
    expect(keepTimecodes).toBeNull();
    expect(told.join()).toContain('cue 2 10:01:00:00 becomes 10:00:59;28');
  });
  it('counts a start in drop-frame as such', () => {
    const after = applied(doc, ...frameRateChange(doc, '29.97df').keepTimes);
    expect(read(after, 0)).toBe('10:00:00;00');
    expect(applied(after, ...frameRateChange(after, '25').keepTimes).format.startTimecode).toBe('10:00:00:00');
  });
});
