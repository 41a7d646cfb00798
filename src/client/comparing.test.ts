import { beforeEach, expect, it, vi } from 'vitest';

const engine = vi.hoisted(() => ({
  listeners: { meters: new Set<(frame: unknown) => void>() },
  hear: vi.fn<(gain: number) => void>(),
}));
vi.mock('./engine', () => ({ listeners: engine.listeners, playerNow: () => ({ hear: engine.hear }) }));

const { comparedGain, compareSide, endComparing, forgetSide, useComparing } = await import('./comparing');

/** `n` stretches of 100 ms that come in at -20 LUFS and leave `gain` LU louder. */
function listen(n: number, gain: number): void {
  const power = (lufs: number) => Array<number>(n).fill(10 ** ((lufs + 0.691) / 10));
  for (const meters of engine.listeners.meters) meters({ probe: { before: power(-20), after: power(-20 + gain) } });
}

beforeEach(() => {
  endComparing();
  useComparing.setState({ matched: true });
  engine.hear.mockClear();
});

it('the louder of two sides is heard softer, once both are known, and only while it sounds', () => {
  compareSide('line a', 'A');
  listen(50, 0);
  expect(comparedGain(useComparing.getState())).toBe(0);
  compareSide('line a', 'B');
  listen(50, 6);
  expect(comparedGain(useComparing.getState())).toBeCloseTo(-6, 6);
  expect(engine.hear.mock.calls.at(-1)![0]).toBeCloseTo(-6, 6);
  compareSide('line a', 'A');
  expect(engine.hear.mock.calls.at(-1)![0]).toBe(0);
});

it('what is still on its way after a change is not counted', () => {
  compareSide('line b', 'A');
  // Half a second of the other side's sound, then its own.
  listen(5, 20);
  listen(45, 3);
  expect(useComparing.getState().gains.A).toBeCloseTo(3, 6);
  forgetSide('A');
  expect(useComparing.getState().gains.A).toBeNull();
});

it('another chain begins anew, and nothing is left when comparing ends', () => {
  compareSide('line c', 'A');
  listen(50, 0);
  compareSide('line c', 'B');
  listen(50, 9);
  compareSide('line d', 'A');
  expect(useComparing.getState().gains).toEqual({ A: null, B: null });
  listen(50, 1);
  endComparing();
  expect(comparedGain(useComparing.getState())).toBe(0);
  listen(50, 12);
  expect(useComparing.getState().gains.A).toBeCloseTo(1, 6);
});

it('matching can be switched off', () => {
  compareSide('line e', 'A');
  listen(50, 4);
  compareSide('line e', 'B');
  listen(50, 0);
  compareSide('line e', 'A');
  expect(comparedGain(useComparing.getState())).toBeCloseTo(-4, 6);
  useComparing.setState({ matched: false });
  expect(engine.hear.mock.calls.at(-1)![0]).toBe(0);
});
