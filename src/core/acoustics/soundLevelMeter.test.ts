// The tolerances of class 1 of IEC 61672-1 about its tables of A and C (from memory).
import { describe, expect, it } from 'vitest';
import { SoundLevelMeter, type Weighting } from '.';

const RATE = 48_000;
const tone = (hz: number, seconds: number, gain = 1) =>
  Float32Array.from({ length: seconds * RATE }, (_, i) => gain * Math.sin((2 * Math.PI * hz * i) / RATE));

function reads(weighting: Weighting, hz: number): number {
  const meter = new SoundLevelMeter(RATE, weighting);
  meter.run(tone(hz, 1));
  meter.takeMean();
  meter.run(tone(hz, 1));
  return meter.takeMean()! + 3.01;
}

describe('a sound level meter', () => {
  it.each([
    ['A', 31.5, -39.4, 1.5],
    ['A', 100, -19.1, 1],
    ['A', 1000, 0, 0.05],
    ['A', 4000, 1, 1],
    ['A', 8000, -1.1, 2.5],
    ['C', 31.5, -3, 1.5],
    ['C', 63, -0.8, 1],
    ['C', 1000, 0, 0.05],
    ['C', 4000, -0.8, 1],
    ['C', 8000, -3, 2.5],
    ['Z', 50, 0, 0.05],
  ] as const)('weighting %s at %f Hz: %f dB', (weighting, hz, db, within) => {
    expect(Math.abs(reads(weighting, hz) - db)).toBeLessThanOrEqual(within);
  });
  // After one time constant 1 - 1/e of the end's power is reached: 1.99 dB below it.
  it.each([
    ['slow', 1],
    ['fast', 0.125],
  ] as const)('%s: 1.99 dB below the end after %f s', (time, seconds) => {
    const meter = new SoundLevelMeter(RATE, 'Z', time);
    meter.run(tone(1000, seconds));
    expect(meter.level + 3.01).toBeCloseTo(-1.99, 1);
  });
  it('has no mean where nothing came, and none of what is silent', () => {
    const meter = new SoundLevelMeter(RATE);
    expect(meter.takeMean()).toBeNull();
    meter.run(new Float32Array(100));
    expect(meter.takeMean()).toBe(-Infinity);
    expect(meter.level).toBe(-Infinity);
  });
});
