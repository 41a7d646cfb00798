import { describe, expect, it } from 'vitest';
import { PictureFollower } from './pictureFollower';

/** A picture of 25 frames a second whose own clock runs `drift` too fast; gives its error over ten seconds. */
function run(start: number, drift = 0, jitter = 0): { errors: number[]; jumps: number } {
  const follower = new PictureFollower();
  const errors: number[] = [];
  let [picture, jumps, rate] = [start, 0, 1];
  for (let i = 0; i < 250; i++) {
    const now = i / 25;
    const error = now - picture;
    errors.push(error);
    // What a browser tells of a frame's time shakes a little.
    const told = error + jitter * Math.sin(i * 2.4);
    const step = follower.take(told, now);
    if ('jump' in step) {
      jumps++;
      picture = now;
      rate = 1;
    } else ({ rate } = step);
    picture += (rate * (1 + drift)) / 25;
  }
  return { errors, jumps };
}

describe('a picture held to the sound', () => {
  it.each([0.11, -0.11])('that begins %d s off comes within a frame and stays there', (start) => {
    const { errors, jumps } = run(start);
    expect(jumps).toBe(0);
    for (const e of errors.slice(75)) expect(Math.abs(e)).toBeLessThan(0.02);
  });
  it('that is far off jumps once', () => {
    const { errors, jumps } = run(3);
    expect(jumps).toBe(1);
    expect(Math.abs(errors.at(-1)!)).toBeLessThan(0.005);
  });
  it.each([0.001, -0.02])('a clock that is %d off leaves no lasting error', (drift) => {
    const { errors } = run(0, drift);
    const rest = errors.slice(200);
    expect(Math.abs(rest.reduce((a, b) => a + b) / rest.length)).toBeLessThan(0.003);
  });
  it('a shaking measure does not shake it out of its frame', () => {
    const { errors, jumps } = run(0.02, 0, 0.015);
    expect(jumps).toBe(0);
    for (const e of errors.slice(75)) expect(Math.abs(e)).toBeLessThan(0.02);
  });
});
