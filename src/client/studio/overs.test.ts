import { expect, it } from 'vitest';
import { sessionWith } from '../../../tests/support/session';
import { engineStub, meterFrame, sessionAt } from '../../../tests/support/studio';
import { Overs } from './overs';

function counting() {
  const session = sessionAt(sessionWith());
  const engine = engineStub();
  let at = 0;
  const overs = new Overs(session, engine, () => at);
  const arrives = (node: string, peak: number, sample: number) => {
    at = sample;
    engine.events.emit('meters', meterFrame({ peaks: { [node]: { before: [0.1, peak], after: [2, 2] } } }));
  };
  return { session, overs, arrives, now: () => overs.state.getState().overs };
}

it('counts what arrives over full scale, and holds the highest with its place', () => {
  const { arrives, now } = counting();
  arrives('efx', 1, 0);
  arrives('efx', 1.1, 100);
  arrives('efx', 1.2589, 200);
  arrives('efx', 1.05, 300);
  arrives('efx', 0.2, 400);
  expect(now()).toEqual({ efx: { count: 3, db: expect.closeTo(2, 2), at: 200 } });
});

it('counts buses only: nothing else has a trim', () => {
  const { arrives, now } = counting();
  arrives('somebody', 1.5, 0);
  arrives('amb', 1.5, 0);
  expect(Object.keys(now())).toEqual(['amb']);
});

it('is cleared by hand, one or all, and by another trim', () => {
  const { session, overs, arrives, now } = counting();
  for (const bus of ['efx', 'dia', 'mus', 'amb']) arrives(bus, 2, 0);
  overs.clear('dia');
  session.edit({ type: 'setBus', bus: 'mus', trim: -6 });
  session.edit({ type: 'setBus', bus: 'amb', level: -6 });
  expect(Object.keys(now())).toEqual(['efx', 'amb']);
  overs.clear();
  expect(now()).toEqual({});
});
