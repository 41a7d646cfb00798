import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { stubFrames } from '../../../tests/support/frames';
import { monoTrack, sessionWith } from '../../../tests/support/session';
import { eventually } from '../../../tests/support/eventually';
import { meterFrame, recorderStub, sessionAt, silentSound } from '../../../tests/support/studio';
import { laneValue } from '@/core/lanes';
import { laneKey, type EditJson, type SessionDoc } from '@/core/session';
import { Ride } from './ride';
import { Studio } from './studio';

const RATE = 48_000;
const target = { node: 'voice', param: 'level' };

let now = 0;
beforeEach(() => {
  now = 1000;
  vi.spyOn(performance, 'now').mockImplementation(() => now);
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ free: 1e12, missing: [] })));
  stubFrames();
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

/** A studio that plays a voice, rolled to a place (s). */
async function playing(...edits: EditJson[]) {
  const session = sessionAt(sessionWith(monoTrack('voice', 'Voice'), ...edits));
  const sound = silentSound();
  const studio = new Studio(session, { startPlayer: sound.start, recorder: recorderStub() });
  await studio.transport.play();
  const player = sound.players[0]!;
  const rolled = (seconds: number) => player.events.onMeters(meterFrame({ rolled: Math.round(seconds * RATE) }));
  rolled(1);
  /** Moves the control; the engine sounds like it from `seconds` on. */
  const move = async (value: number, seconds: number) => {
    const before = player.serial;
    const done = studio.ride.move(target, value);
    if (!done) return false;
    await eventually(() => expect(player.serial).toBeGreaterThan(before));
    player.events.onLoaded(player.serial, Math.round(seconds * RATE));
    rolled(seconds);
    return true;
  };
  const lane = () => session.getState().doc!.lanes[laneKey(target)]?.points ?? [];
  const at = (seconds: number) => laneValue(lane(), seconds * RATE);
  return { session, studio, rolled, move, lane, at };
}

const drawn = (...points: [number, number][]): EditJson => ({
  type: 'writeLane',
  target,
  from: 0,
  to: 100 * RATE,
  points: points.map(([at, value]) => ({ at: at * RATE, value, shape: 'line' })),
});

it('nothing is ridden while nothing sounds, or where it was not asked for', async () => {
  const { studio, move } = await playing();
  expect(await move(-3, 2)).toBe(false);
  studio.ride.setMode(target, 'held');
  studio.transport.stop();
  expect(studio.ride.move(target, -3)).toBe(false);
  await studio.close();
});

it('while held: what was heard is written where it was heard, and the lane goes on as it was', async () => {
  const { studio, move, at } = await playing(drawn([0, -2], [100, -2]));
  studio.ride.setMode(target, 'held');
  await move(-6, 2);
  await move(-9, 3);
  await move(-9, 4);
  expect(studio.ride.release(target)).toBe(true);
  // The engine glides to each within 20 ms.
  expect(at(2.02)).toBeCloseTo(-6, 1);
  expect(at(3.02)).toBeCloseTo(-9, 1);
  expect(at(4)).toBeCloseTo(-9, 1);
  expect(at(0.5)).toBe(-2);
  expect(at(4.3)).toBe(-2);
  await studio.close();
});

it('from here on: it goes on until it stops, though it was let go', async () => {
  const { studio, move, rolled, at } = await playing(drawn([0, -2], [100, -2]));
  studio.ride.setMode(target, 'on');
  await move(-12, 2);
  expect(studio.ride.release(target)).toBe(true);
  // What is heard meanwhile: the ride, not what the lane had later.
  expect(at(30)).toBe(-12);
  rolled(10);
  studio.transport.stop();
  expect(at(9.9)).toBeCloseTo(-12, 1);
  expect(at(10.3)).toBe(-2);
  await studio.close();
});

it('where no lane was: from here on it stays, while held it comes back', async () => {
  const on = await playing({ type: 'setTrack', track: 'voice', level: -1 });
  on.studio.ride.setMode(target, 'on');
  await on.move(-8, 2);
  on.rolled(3);
  on.studio.transport.stop();
  expect([on.at(0), on.at(60)]).toEqual([-1, -8]);
  await on.studio.close();
  const held = await playing({ type: 'setTrack', track: 'voice', level: -1 });
  held.studio.ride.setMode(target, 'held');
  await held.move(-8, 2);
  held.studio.ride.release(target);
  expect([held.at(0), held.at(60)]).toEqual([-1, -1]);
  await held.studio.close();
});

it('a slow move is few points, within a twentieth of a dB', async () => {
  const { studio, move, lane, at } = await playing();
  studio.ride.setMode(target, 'held');
  for (let i = 0; i <= 40; i++) await move(-i / 4, 2 + i / 20);
  studio.ride.release(target);
  expect(lane().length).toBeLessThan(8);
  for (let i = 2; i <= 40; i++) expect(Math.abs(at(2.02 + i / 20) + i / 4)).toBeLessThanOrEqual(0.06);
  await studio.close();
});

it('one undo takes a ride back: it is one edit', async () => {
  const { session, studio, move } = await playing();
  const edits = vi.spyOn(session, 'edit');
  studio.ride.setMode(target, 'held');
  for (const v of [-1, -2, -3]) await move(v, 2 - v / 10);
  studio.ride.release(target);
  expect(edits.mock.calls.flat().map((e) => e.type)).toEqual(['writeLane']);
  await studio.close();
});

it('a move that the engine is told of late takes nothing from the moves after it', async () => {
  const { session, studio, rolled, at } = await playing(drawn([0, -2], [100, -2]));
  let told: (doc: SessionDoc, seconds: number) => void = () => {};
  const busy: SessionDoc[] = [];
  const engine = {
    events: {
      on: (_: string, f: (e: { doc: SessionDoc; rolled: number }) => void) => {
        told = (doc, seconds) => f({ doc, rolled: Math.round(seconds * RATE) });
      },
    },
  };
  const ride = new Ride(session, engine as never, studio.transport);
  ride.setMode(target, 'on');
  for (let i = 1; i <= 4; i++) {
    ride.move(target, (ride.valueOf(target) ?? -2) - 1);
    busy.push(session.getState().doc!);
    // The first is heard only now, long after the next two were moved.
    if (i === 3) {
      told(busy[0]!, 4);
      rolled(4);
    }
  }
  expect(ride.valueOf(target)).toBe(-6);
  told(busy[3]!, 5);
  studio.transport.stop();
  expect(at(4.02)).toBeCloseTo(-3, 1);
  expect(at(5.02)).toBeCloseTo(-6, 1);
  await studio.close();
});

it('where a ridden control stands is told by the ride, not by the lane at the playhead', async () => {
  const { studio, move, rolled } = await playing(drawn([0, -2], [100, -2]));
  studio.ride.setMode(target, 'on');
  expect(studio.ride.valueOf(target)).toBeNull();
  await move(-12, 2);
  // Let go, and looked at before the playhead has come to what was written.
  studio.ride.release(target);
  rolled(1.9);
  expect(studio.ride.valueOf(target)).toBe(-12);
  expect(studio.ride.valueOf({ ...target, param: 'muted' })).toBeNull();
  rolled(10);
  studio.transport.stop();
  expect(studio.ride.valueOf(target)).toBeNull();
  await studio.close();
});
