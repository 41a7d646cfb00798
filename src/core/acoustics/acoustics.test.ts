import { describe, expect, it } from 'vitest';
import {
  alignmentDelays,
  levelAtDistance,
  pascalOf,
  REFERENCE_SPL,
  SPEECH_IMPORTANCE,
  speechAdvantage,
  splOf,
  sumOfLevels,
  travelTime,
  trimsFor,
  weight468,
  weightA,
  weightC,
  weightedLevel,
  withoutBackground,
} from '.';

describe('weightings', () => {
  // IEC 61672-1 table 3 (values from memory), nominal frequencies taken at their exact base-ten centres.
  it.each([
    [31.5, -39.4, -3.0],
    [63, -26.2, -0.8],
    [100, -19.1, -0.3],
    [250, -8.6, 0],
    [500, -3.2, 0],
    [1000, 0, 0],
    [2000, 1.2, -0.2],
    [4000, 1.0, -0.8],
    [8000, -1.1, -3.0],
    [16000, -6.6, -8.5],
  ])('A and C at %f Hz: %f, %f dB', (nominal, a, c) => {
    const exact = 1000 * 10 ** (Math.round(10 * Math.log10(nominal / 1000)) / 10);
    expect(weightA(exact)).toBeCloseTo(a, 0.5);
    expect(Math.abs(weightA(exact) - a)).toBeLessThanOrEqual(0.06);
    expect(Math.abs(weightC(exact) - c)).toBeLessThanOrEqual(0.06);
  });
  // ITU-R BS.468-4 table 1 (values from memory).
  it.each([
    [31.5, -29.9],
    [63, -23.9],
    [100, -19.8],
    [200, -13.8],
    [400, -7.8],
    [800, -1.9],
    [1000, 0],
    [2000, 5.6],
    [3150, 9.0],
    [4000, 10.5],
    [5000, 11.7],
    [6300, 12.2],
    [8000, 11.4],
    [10000, 8.1],
    [12500, 0],
    [16000, -11.7],
    [20000, -22.2],
  ])('noise weighting at %f Hz: %f dB', (f, db) => {
    expect(Math.abs(weight468(f) - db)).toBeLessThanOrEqual(0.15);
  });
  it('a weighted level adds the bands', () => {
    const spectrum = [
      { frequency: 1000, level: -20 },
      { frequency: 2000, level: -20 },
    ];
    expect(weightedLevel(spectrum, () => 0)).toBeCloseTo(-16.99, 2);
    expect(weightedLevel(spectrum, weightA)).toBeCloseTo(10 * Math.log10(0.01 + 0.01 * 10 ** 0.12), 1);
  });
});

describe('speech over a background (band importance of ANSI S3.5, from memory)', () => {
  it('shares add up to one and weigh 2 kHz most', () => {
    expect(SPEECH_IMPORTANCE.reduce((s, [, share]) => s + share, 0)).toBeCloseTo(1, 3);
    expect(SPEECH_IMPORTANCE.reduce((top, b) => (b[1] > top[1] ? b : top))[0]).toBe(2000);
  });
  it('is the level difference when it is the same in all bands, held at 15 dB', () => {
    const bands = (level: number) => SPEECH_IMPORTANCE.map(([frequency]) => ({ frequency, level }));
    expect(speechAdvantage(bands(-30), bands(-40))).toBeCloseTo(10, 9);
    expect(speechAdvantage(bands(-30), bands(-80))).toBeCloseTo(15, 9);
    expect(speechAdvantage(bands(-30), bands(-10))).toBeCloseTo(-15, 9);
  });
  it('a background in the bands that matter counts more', () => {
    const voice = SPEECH_IMPORTANCE.map(([frequency]) => ({ frequency, level: -30 }));
    const at = (from: number, to: number) =>
      voice.map((b) => ({ ...b, level: b.frequency >= from && b.frequency <= to ? -30 : -60 }));
    expect(speechAdvantage(voice, at(1250, 2500))).toBeLessThan(speechAdvantage(voice, at(160, 315)));
  });
});

describe('sound levels and distance', () => {
  it('two equal levels are 3.01 dB more, ten 10 dB', () => {
    expect(sumOfLevels([85, 85])).toBeCloseTo(88.01, 2);
    expect(sumOfLevels(Array<number>(10).fill(60))).toBeCloseTo(70, 9);
    expect(withoutBackground(sumOfLevels([60, 55]), 55)).toBeCloseTo(60, 9);
    expect(withoutBackground(50, 55)).toBeNull();
  });
  it('twice the distance is 6.02 dB less; one pascal is 93.98 dB SPL', () => {
    expect(levelAtDistance(85, 1, 2)).toBeCloseTo(78.98, 2);
    expect(splOf(1)).toBeCloseTo(93.98, 2);
    expect(pascalOf(splOf(0.3))).toBeCloseTo(0.3, 12);
  });
  // 343.2 m/s at 20 degrees: 2.914 ms a metre.
  it('sound takes 2.914 ms a metre, and the nearer speaker waits', () => {
    expect(travelTime(1) * 1000).toBeCloseTo(2.914, 3);
    expect(alignmentDelays([2, 1, 2], 48_000)).toEqual([0, 140, 0]);
  });
  it('trims bring readings to SMPTE RP 200 (values from memory)', () => {
    expect(trimsFor([83.5, 86, 80], [85, 85, 82])).toEqual([1.5, -1, 2]);
    expect(REFERENCE_SPL).toEqual({ screen: 85, surround: 82, lfe: 95 });
  });
});
