import { expect, it } from 'vitest';
import type { ProbeReading } from '@/audio';
import { engineStub, meterFrame } from '../../../tests/support/studio';
import { comparedGain, Comparing } from './comparing';

function fresh() {
  const engine = engineStub();
  return { engine, comparing: new Comparing(engine) };
}
type Setup = ReturnType<typeof fresh>;

/** `n` stretches of 100 ms that come in at -20 LUFS and leave `gain` LU louder. */
function listen({ engine }: Setup, n: number, gain: number): void {
  const power = (lufs: number) => Array<number>(n).fill(10 ** ((lufs + 0.691) / 10));
  const probe = { stage: null, spectrum: [], before: power(-20), after: power(-20 + gain) } as unknown as ProbeReading;
  engine.events.emit('meters', meterFrame({ probe }));
}

it('the louder of two sides is heard softer, once both are known, and only while it sounds', () => {
  const setup = fresh();
  const { comparing, engine } = setup;
  comparing.side('line a', 'A');
  listen(setup, 50, 0);
  expect(comparedGain(comparing.state.getState())).toBe(0);
  comparing.side('line a', 'B');
  listen(setup, 50, 6);
  expect(comparedGain(comparing.state.getState())).toBeCloseTo(-6, 6);
  expect(engine.hear.mock.calls.at(-1)![0]).toBeCloseTo(-6, 6);
  comparing.side('line a', 'A');
  expect(engine.hear.mock.calls.at(-1)![0]).toBe(0);
});

it('what is still on its way after a change is not counted', () => {
  const setup = fresh();
  const { comparing } = setup;
  comparing.side('line b', 'A');
  // Half a second of the other side's sound, then its own.
  listen(setup, 5, 20);
  listen(setup, 45, 3);
  expect(comparing.state.getState().gains.A).toBeCloseTo(3, 6);
  comparing.forget('A');
  expect(comparing.state.getState().gains.A).toBeNull();
});

it('another chain begins anew, and nothing is left when comparing ends', () => {
  const setup = fresh();
  const { comparing } = setup;
  comparing.side('line c', 'A');
  listen(setup, 50, 0);
  comparing.side('line c', 'B');
  listen(setup, 50, 9);
  comparing.side('line d', 'A');
  expect(comparing.state.getState().gains).toEqual({ A: null, B: null });
  listen(setup, 50, 1);
  comparing.end();
  expect(comparedGain(comparing.state.getState())).toBe(0);
  listen(setup, 50, 12);
  expect(comparing.state.getState().gains.A).toBeCloseTo(1, 6);
});

it('matching can be switched off', () => {
  const setup = fresh();
  const { comparing, engine } = setup;
  comparing.side('line e', 'A');
  listen(setup, 50, 4);
  comparing.side('line e', 'B');
  listen(setup, 50, 0);
  comparing.side('line e', 'A');
  expect(comparedGain(comparing.state.getState())).toBeCloseTo(-4, 6);
  comparing.match(false);
  expect(engine.hear.mock.calls.at(-1)![0]).toBe(0);
});
