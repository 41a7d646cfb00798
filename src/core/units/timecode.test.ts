import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  FRAME_RATES,
  frameRate,
  frameToSample,
  framesPerDay,
  framesToTimecode,
  sampleToFrame,
  sampleToTimecode,
  timecodeToFrames,
  timecodeToSample,
} from '.';

const df = frameRate('29.97df');

describe('drop-frame timecode, SMPTE ST 12-1', () => {
  it('leaves out frames 00 and 01 at each minute except each tenth', () => {
    expect(framesToTimecode(timecodeToFrames('00:00:59;29', df) + 1, df)).toBe('00:01:00;02');
    expect(framesToTimecode(timecodeToFrames('00:09:59;29', df) + 1, df)).toBe('00:10:00;00');
  });
  it('counts 107,892 frames an hour and 2,589,408 a day', () => {
    expect(timecodeToFrames('01:00:00;00', df)).toBe(107_892);
    expect(timecodeToFrames('23:59:59;29', df) + 1).toBe(2_589_408);
    expect(framesPerDay(df)).toBe(2_589_408);
  });
  it('refuses a label that does not exist', () => {
    expect(() => timecodeToFrames('00:01:00;01', df)).toThrow(/does not exist in drop-frame/);
  });
});

describe('samples per frame at 48 kHz', () => {
  it.each([
    ['24', 1, 2000],
    ['25', 1, 1920],
    ['23.976', 1, 2002],
    ['29.97', 5, 8008],
    ['30', 1, 1600],
  ] as const)('%s fps: %i frames last %i samples', (id, frames, samples) => {
    expect(frameToSample(frames, frameRate(id), 48000)).toBe(samples);
  });
});

describe('conversions there and back', () => {
  it('keeps every frame of every rate over a day', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...FRAME_RATES),
        fc.nat(2_073_599),
        fc.constantFrom(44100, 48000, 96000),
        (rate, frame, sr) => {
          expect(timecodeToFrames(framesToTimecode(frame, rate), rate)).toBe(frame);
          expect(sampleToFrame(frameToSample(frame, rate, sr), rate, sr)).toBe(frame);
        },
      ),
      { numRuns: 2000 },
    );
  });
  it('maps timeline samples by the start timecode', () => {
    const r = frameRate('25');
    const start = timecodeToFrames('10:00:00:00', r);
    expect(timecodeToSample('10:00:24:11', start, r, 48000)).toBe(24 * 48000 + 11 * 1920);
    expect(sampleToTimecode(24 * 48000 + 11 * 1920, start, r, 48000)).toBe('10:00:24:11');
  });
});

describe('typed timecode', () => {
  const r = frameRate('25');
  it.each([
    ['10:00:00:00', 900_000],
    ['10000000', 900_000],
    ['12:04', 304],
    ['1.00.00.00', 90_000],
  ])('reads %s', (text, frames) => {
    expect(timecodeToFrames(text, r)).toBe(frames);
  });
  it.each(['', 'soon', '10:00:00:25', '24:00:00:00', '00:61:00:00', '1:2:3:4:5'])('refuses %j and says why', (text) => {
    expect(() => timecodeToFrames(text, r)).toThrow(RangeError);
  });
});
