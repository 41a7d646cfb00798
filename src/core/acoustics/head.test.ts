import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { runStage } from '../../../tests/support/stages';
import { layoutOf } from '@/core/speakers';
import { headType } from '@/core/stages';
import { earAlpha, earDelay, HEAD_CORNER, HEAD_RADIUS, incidence } from '.';

const k = newKernels();
const RAD = Math.PI / 180;

/** The left ear's delay less the right ear's, s. */
const interauralDelay = (azimuth: number, elevation = 0): number =>
  earDelay(incidence(azimuth, elevation, 'left')) - earDelay(incidence(azimuth, elevation, 'right'));

/** Level in dB of an ear: |1 + j alpha w / 2w0| over |1 + j w / 2w0|. */
function earLevel(theta: number, frequency: number): number {
  const x = frequency / (2 * HEAD_CORNER);
  return 10 * Math.log10((1 + (earAlpha(theta) * x) ** 2) / (1 + x ** 2));
}

describe('a head that is a sphere', () => {
  // Woodworth and Schlosberg 1954 (from memory): a/c (θ + sin θ), a = 8.75 cm; at 90° 656 microseconds.
  it.each([0, 15, 30, 45, 60, 75, 90])('delays by a/c (θ + sin θ) at %i°', (azimuth) => {
    const wanted = (HEAD_RADIUS / 343.2) * (azimuth * RAD + Math.sin(azimuth * RAD));
    expect(-interauralDelay(azimuth)).toBeCloseTo(wanted, 9);
    expect(interauralDelay(-azimuth)).toBeCloseTo(wanted, 9);
  });
  it('hears front and back, and all that is straight above, alike in time', () => {
    expect(interauralDelay(150)).toBeCloseTo(interauralDelay(30), 9);
    expect(interauralDelay(90, 90)).toBeCloseTo(0, 9);
    expect(incidence(90, 0, 'left')).toBeCloseTo(0, 6);
  });
  // Brown and Duda 1998 (from memory): alpha is 2 towards the ear, 0.1 at 150°.
  it('shades high sounds: +6 dB at the near ear, -20 dB at 150°, nothing low down', () => {
    expect(earAlpha(0)).toBeCloseTo(2, 9);
    expect(earAlpha(150)).toBeCloseTo(0.1, 9);
    expect(earLevel(0, 1e6)).toBeCloseTo(6.02, 2);
    expect(earLevel(150, 1e6)).toBeCloseTo(-20, 2);
    for (const theta of [0, 60, 150]) expect(Math.abs(earLevel(theta, 20))).toBeLessThan(0.1);
  });
});

describe('loudspeakers around a head', () => {
  const layout = layoutOf('5.1');
  const RATE = 48_000;
  const N = 4_096;
  /** What both ears hear of an impulse in one speaker. */
  const ears = (channel: number) => {
    const input = layout.speakers.map((_, c) => {
      const x = new Float32Array(N);
      if (c === channel) x[100] = 1;
      return x;
    });
    return runStage(k, headType(layout), {}, input).out.slice(0, 2) as [Float32Array, Float32Array];
  };
  const response = (x: Float32Array, hz: number) => {
    let [re, im] = [0, 0];
    x.forEach((v, i) => {
      re += v * Math.cos((2 * Math.PI * hz * i) / RATE);
      im -= v * Math.sin((2 * Math.PI * hz * i) / RATE);
    });
    return { db: 20 * Math.log10(Math.hypot(re, im)), phase: Math.atan2(im, re) };
  };
  it.each(layout.speakers.filter((s) => !s.lfe).map((s) => [s.label, s] as const))(
    '%s: level and delay between the ears are those of the formulas',
    (label, s) => {
      const [left, right] = ears(layout.speakers.findIndex((o) => o.label === label));
      for (const hz of [300, 1000, 3000]) {
        const by = response(left, hz).db - response(right, hz).db;
        const wanted = earLevel(incidence(s.azimuth, 0, 'left'), hz) - earLevel(incidence(s.azimuth, 0, 'right'), hz);
        expect(Math.abs(by - wanted)).toBeLessThan(0.35);
      }
      // Centre of energy: the delay, and that of the shading.
      const centre = (x: Float32Array) => {
        const [sum, at] = x.reduce(([e, t], v, i) => [e + v * v, t + v * v * i], [0, 0] as [number, number]);
        return at / sum;
      };
      const samples = centre(left) - centre(right);
      expect(Math.abs(samples - interauralDelay(s.azimuth) * RATE)).toBeLessThan(3);
    },
  );
  it('the LFE reaches both alike, the centre too', () => {
    for (const label of ['LFE', 'C']) {
      const [left, right] = ears(layout.speakers.findIndex((o) => o.label === label));
      expect(left).toEqual(right);
    }
  });
});
