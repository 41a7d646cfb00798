import { describe, expect, it } from 'vitest';
import { FramePace } from './framePace';

/** Draws for `ms`; `interval`: time between repaints at a time. Returns how many drawings there were. */
function draw(pace: FramePace, from: number, ms: number, interval: (every: number) => number): number {
  let drawn = 0;
  for (let now = from; now < from + ms; now += interval(pace.every)) {
    pace.note(now);
    drawn++;
  }
  return drawn;
}

describe('the pace of what moves', () => {
  it('is every repaint while the machine keeps up, at 60 and at 120 a second', () => {
    for (const screen of [1000 / 60, 1000 / 120]) {
      const pace = new FramePace();
      draw(pace, 0, 10_000, () => screen);
      expect(pace.every).toBe(1);
    }
  });
  it('is every second repaint within two seconds once it does not', () => {
    const pace = new FramePace();
    draw(pace, 0, 2_000, (every) => (every === 1 ? 30 : 34));
    expect(pace.every).toBe(2);
  });
  it('comes back by itself when the machine is free again', () => {
    const pace = new FramePace();
    draw(pace, 0, 3_000, (every) => (every === 1 ? 30 : 34));
    draw(pace, 3_000, 6_000, (every) => every * (1000 / 60));
    expect(pace.every).toBe(1);
  });
  it('tries less and less often while the machine stays busy', () => {
    const pace = new FramePace();
    let tries = 0;
    let before: number = pace.every;
    draw(pace, 0, 120_000, (every) => {
      if (every < before) tries++;
      before = every;
      return every === 1 ? 30 : 34;
    });
    expect(tries).toBeLessThan(8);
    expect(tries).toBeGreaterThan(1);
  });
  it('takes no pause for a slow machine', () => {
    const pace = new FramePace();
    draw(pace, 0, 300, () => 1000 / 60);
    pace.forget();
    draw(pace, 60_000, 1_000, () => 1000 / 60);
    expect(pace.every).toBe(1);
  });
});
