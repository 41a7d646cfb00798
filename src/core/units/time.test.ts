// Rates, 24 hours, pulls and tempo.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  FRAME_RATES,
  frameRate,
  framesPerDay,
  framesToTimecode,
  frameToSample,
  sampleToFrame,
  sampleToTimecode,
  TempoMap,
  timecodeToFrames,
  timecodeToSample,
} from '.';

describe('24 hours at every rate', () => {
  it.each(FRAME_RATES.map((r) => [r.id, r] as const))('%s: no drift, frame by frame there and back', (_, rate) => {
    for (const sampleRate of [44_100, 48_000, 96_000, 192_000]) {
      const day = framesPerDay(rate);
      // The exact length of a day's frames, in whole numbers.
      const exact =
        (BigInt(day) * BigInt(sampleRate) * BigInt(rate.den) * 2n + BigInt(rate.num)) / (2n * BigInt(rate.num));
      expect(frameToSample(day, rate, sampleRate)).toBe(Number(exact));
      for (let frame = 0; frame <= day; frame += 9973) {
        const sample = frameToSample(frame, rate, sampleRate);
        expect(sampleToFrame(sample, rate, sampleRate)).toBe(frame);
        if (frame > 0) expect(sampleToFrame(sample - 1, rate, sampleRate)).toBe(frame - 1);
      }
    }
  });
  it('timecode and back, any frame of the day', () => {
    fc.assert(
      fc.property(fc.constantFrom(...FRAME_RATES), fc.nat(2_000_000), (rate, frame) => {
        expect(timecodeToFrames(framesToTimecode(frame, rate), rate)).toBe(frame % framesPerDay(rate));
      }),
      { numRuns: 2000 },
    );
  });
  it('samples to timecode and back within a frame, to the sample at its start', () => {
    const rate = frameRate('29.97df');
    const at = timecodeToSample('23:59:59;29', 0, rate, 48_000);
    expect(sampleToTimecode(at, 0, rate, 48_000)).toBe('23:59:59;29');
    expect(sampleToTimecode(at - 1, 0, rate, 48_000)).toBe('23:59:59;28');
  });
  // SMPTE ST 12-1 and ST 12-3 (60 fps counts four labels out); values from memory.
  it('drop-frame days: 2,589,408 labels at 29.97, twice as many at 59.94', () => {
    expect(framesPerDay(frameRate('29.97df'))).toBe(2_589_408);
    expect(framesPerDay(frameRate('59.94df'))).toBe(5_178_816);
    const rate = frameRate('59.94df');
    const next = framesToTimecode(timecodeToFrames('00:00:59;59', rate) + 1, rate);
    expect(next).toBe('00:01:00;04');
    expect(framesToTimecode(timecodeToFrames('00:09:59;59', rate) + 1, rate)).toBe('00:10:00;00');
    expect(() => timecodeToFrames('00:01:00;03', rate)).toThrow(/starts at frame 04/);
  });
  // SMPTE: samples per frame at 48 kHz.
  it.each([
    ['24', 2000],
    ['25', 1920],
    ['23.976', 2002],
    ['30', 1600],
    ['48', 1000],
    ['50', 960],
    ['60', 800],
  ] as const)('%s fps: %i samples a frame at 48 kHz', (id, samples) => {
    expect(frameToSample(1, frameRate(id), 48_000)).toBe(samples);
  });
  it('29.97: 8008 samples in five frames', () => {
    expect(frameToSample(5, frameRate('29.97'), 48_000)).toBe(8008);
    expect(frameToSample(10, frameRate('59.94'), 48_000)).toBe(8008);
  });
});

describe('tempo', () => {
  it('at 120 beats a minute a bar of four is two seconds', () => {
    const map = new TempoMap([{ beat: 0, tempo: 120, glides: false }]);
    expect(map.sampleOf(map.beatOf(3), 48_000)).toBe(4 * 48_000);
    expect(map.barAt(9.5)).toEqual({ bar: 3, beat: 2.5 });
  });
  it('a change holds from its beat on', () => {
    const map = new TempoMap([
      { beat: 0, tempo: 60, glides: false },
      { beat: 8, tempo: 120, glides: false },
    ]);
    expect(map.secondsOf(8)).toBe(8);
    expect(map.secondsOf(10)).toBe(9);
    expect(map.beatAt(9)).toBe(10);
  });
  it('a glide from 60 to 120 over 8 beats takes 60 ln 2 / 7.5 seconds, as small steps add up to', () => {
    const map = new TempoMap([
      { beat: 0, tempo: 60, glides: true },
      { beat: 8, tempo: 120, glides: false },
    ]);
    expect(map.secondsOf(8)).toBeCloseTo((60 / 7.5) * Math.LN2, 12);
    let sum = 0;
    const steps = 100_000;
    for (let i = 0; i < steps; i++) sum += (60 / (60 + 7.5 * ((i + 0.5) / steps) * 8)) * (8 / steps);
    expect(map.secondsOf(8)).toBeCloseTo(sum, 8);
    expect(map.tempoAt(4)).toBe(90);
  });
  it('beat and time are each other’s inverse, over hours', () => {
    const map = new TempoMap([
      { beat: 0, tempo: 72, glides: true },
      { beat: 64, tempo: 144.5, glides: true },
      { beat: 200, tempo: 50, glides: false },
      { beat: 5000, tempo: 97.3, glides: true },
      { beat: 9000, tempo: 180, glides: false },
    ]);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 20_000, noNaN: true }), (beat) => {
        expect(Math.abs(map.beatAt(map.secondsOf(beat)) - beat)).toBeLessThan(1e-8);
      }),
    );
  });
  it('bars of changing metre', () => {
    const map = new TempoMap(
      [{ beat: 0, tempo: 60, glides: false }],
      [
        { bar: 1, beats: 4, value: 4 },
        { bar: 3, beats: 6, value: 8 },
        { bar: 5, beats: 3, value: 4 },
      ],
    );
    expect([1, 3, 4, 5, 6].map((b) => map.beatOf(b))).toEqual([0, 8, 11, 14, 17]);
    expect(map.beatOf(3, 4)).toBe(9.5);
    expect(map.barAt(9.5)).toEqual({ bar: 3, beat: 4 });
    for (let bar = 1; bar < 12; bar++) expect(map.barAt(map.beatOf(bar))).toEqual({ bar, beat: 1 });
  });
  it.each([
    [[{ beat: 1, tempo: 60, glides: false }], /beat 0/],
    [[{ beat: 0, tempo: 0, glides: false }], /above 0/],
    [
      [
        { beat: 0, tempo: 60, glides: false },
        { beat: 0, tempo: 70, glides: false },
      ],
      /one after the other/,
    ],
  ])('refuses points that contradict each other', (points, message) => {
    expect(() => new TempoMap(points)).toThrow(message);
  });
});
