// Two people on one session: what belongs to a seat, who is here, and undoing one's own.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { FORMAT, monoTrack, take } from '../../../tests/support/session';
import { faultOf, newSession, type EditJson } from '@/core/session';
import { closeDatabase, openDatabase } from '../database';
import { onBehalfOf } from '../http';
import {
  createSession,
  edit,
  editSeat,
  historyList,
  keepSelected,
  namePerson,
  noteHere,
  openSession,
  seatAt,
  subscribe,
  travel,
  type SessionEvent,
} from '.';

const remove = freshDataFolder();
beforeAll(async () => {
  await openDatabase();
});
afterAll(async () => {
  await closeDatabase();
  remove();
});

let made = 0;
async function session(): Promise<string> {
  const id = await createSession(newSession('Two', 'TW', { ...FORMAT }), `two${++made}`);
  await edit(id, 'tracks', [monoTrack('a'), monoTrack('b')]);
  return id;
}
let edits = 0;
const as = <T>(seat: string, work: () => Promise<T>) => onBehalfOf(seat, work);
const make = (seat: string, id: string, ...list: EditJson[]) => as(seat, () => edit(id, `e${++edits}`, list));
const level = (track: string, db: number): EditJson => ({ type: 'setTrack', track, level: db });
const levels = async (id: string) => (await openSession(id)).doc.tracks.map((t) => t.level);

describe('a seat', () => {
  it('begins as the session says, keeps what was set, and leaves others and the session alone', async () => {
    const id = await session();
    const before = await openSession(id);
    await editSeat(id, 'ada', [
      { type: 'seatTrack', track: 'a', armed: true, soloed: true },
      { type: 'setMonitor', level: -20 },
    ]);
    expect((await seatAt(id, 'ada')).state).toMatchObject({ armed: ['a'], soloed: ['a'], monitor: { level: -20 } });
    expect((await seatAt(id, 'ben')).state).toMatchObject({ armed: [], soloed: [], monitor: { level: -12 } });
    expect(await openSession(id)).toEqual(before);
    await expect(editSeat(id, 'ada', [level('a', -3)])).rejects.toThrow(/changes the session, not a seat/);
    await expect(editSeat(id, 'ada', [{ type: 'seatTrack', track: 'none', armed: true }])).rejects.toThrow(
      /track is not in the session/,
    );
    expect((await seatAt(id, 'ada')).state.armed).toEqual(['a']);
  });
  it('keeps what was selected beside it', async () => {
    const id = await session();
    await keepSelected(id, 'ada', { kind: 'track', id: 'b' });
    await editSeat(id, 'ada', [{ type: 'seatBus', bus: 'dia', soloed: true }]);
    expect(await seatAt(id, 'ada')).toMatchObject({ selected: { kind: 'track', id: 'b' }, state: { soloed: ['dia'] } });
    await expect(keepSelected(id, 'ada', { kind: 'planet', id: 'b' })).rejects.toThrow(/selection/);
  });
  it('tells its other windows, by an event with the whole of it', async () => {
    const id = await session();
    const told: SessionEvent[] = [];
    const end = subscribe(id, (e) => told.push(e));
    await Promise.all([
      editSeat(id, 'ada', [{ type: 'seatTrack', track: 'a', armed: true }]),
      editSeat(id, 'ada', [{ type: 'seatTrack', track: 'b', armed: true }]),
    ]);
    end();
    expect(told.at(-1)).toMatchObject({ kind: 'seat', seat: 'ada', state: { armed: ['a', 'b'] } });
  });
});

describe('undo', () => {
  it('takes back one’s own last step and leaves those of others', async () => {
    const id = await session();
    await make('ada', id, level('a', -6));
    await make('ben', id, level('b', -3));
    expect((await as('ada', () => openSession(id))).undo).toBe('set track level');
    await as('ada', () => travel(id, 'undo'));
    expect(await levels(id)).toEqual([0, -3]);
    await as('ben', () => travel(id, 'undo'));
    expect(await levels(id)).toEqual([0, 0]);
    await as('ada', () => travel(id, 'redo'));
    expect(await levels(id)).toEqual([-6, 0]);
  });
  it('says who has changed the same since; nothing is lost, and the step before can still be taken back', async () => {
    const id = await session();
    await namePerson('ben', { name: 'Ben' });
    await make('ada', id, { type: 'setTrack', track: 'b', muted: true });
    await make('ada', id, level('a', -6));
    await make('ben', id, level('a', -9));
    const refused = as('ada', () => travel(id, 'undo'));
    await expect(refused).rejects.toThrow(
      '"set track level" cannot be taken back: Ben has changed the same since (a, level)',
    );
    expect(await levels(id)).toEqual([-9, 0]);
    const facts = await refused.catch((e: { facts: { revision: number } }) => e.facts);
    await as('ada', () => travel(id, 'undo', facts.revision));
    expect((await openSession(id)).doc.tracks.map((t) => t.muted)).toEqual([false, false]);
    expect(await levels(id)).toEqual([-9, 0]);
  });
  it('is refused where the session would not be whole any more', async () => {
    const id = await session();
    await make('ada', id, { type: 'addBus', kind: 'stem', id: 'bells', name: 'Bells', sources: [] });
    await make('ben', id, { type: 'sendTracks', tracks: ['a'], destination: 'bells' });
    await expect(as('ada', () => travel(id, 'undo'))).rejects.toThrow(/leads? to "bells"|lead to/);
    expect((await openSession(id)).doc.tracks[0]!.destination).toBe('bells');
  });
  it('takes a lane along that somebody else has laid on what it takes away', async () => {
    const id = await session();
    await make('ada', id, { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'g', stage: 'gate' });
    await make('ben', id, {
      type: 'writeLane',
      target: { node: 'a', stage: 'g', param: 'threshold' },
      from: 0,
      to: 9,
      points: [{ at: 3, value: -40, shape: 'line' }],
    });
    await as('ada', () => travel(id, 'undo'));
    expect((await openSession(id)).doc.lanes).toEqual({});
    await as('ada', () => travel(id, 'redo'));
    const { doc } = await openSession(id);
    expect(doc.tracks[0]!.chain.map((s) => s.id)).toEqual(['g']);
    expect(faultOf(null, doc)).toBeNull();
  });
  it('of many steps beside many of others ends where the others led', async () => {
    const id = await session();
    for (let i = 1; i <= 12; i++) {
      await make('ada', id, level('a', -i));
      await make('ben', id, level('b', -2 * i));
    }
    for (let i = 0; i < 12; i++) await as('ada', () => travel(id, 'undo'));
    expect(await levels(id)).toEqual([0, -24]);
    for (let i = 0; i < 12; i++) await as('ada', () => travel(id, 'redo'));
    expect(await levels(id)).toEqual([-12, -24]);
    await expect(as('ada', () => travel(id, 'redo'))).rejects.toThrow(/nothing to redo/);
  });
  it('has a list of what was done, by whom, and whether it is one’s own to take back', async () => {
    const id = await session();
    await namePerson('ada', { name: ' Ada ', hue: 2 });
    await make('ada', id, level('a', -6));
    await make('ben', id, level('b', -3));
    await make('ada', id, level('a', -9));
    await as('ada', () => travel(id, 'undo'));
    const list = (seat: string) =>
      as(seat, () => historyList(id)).then((steps) => steps.map((s) => [s.by, s.subject, s.mine, s.done]));
    expect(await list('ada')).toEqual([
      ['Ada', 'a', true, false],
      ['Ben', 'b', false, true],
      ['Ada', 'a', true, true],
      [null, 'a, b', true, true],
    ]);
    // What others have undone is nobody else's to do again.
    expect(await list('ben')).toEqual([
      ['Ben', 'b', true, true],
      ['Ada', 'a', false, true],
      [null, 'a, b', true, true],
    ]);
  });
});

describe('who is here', () => {
  it('is told when somebody comes and goes, with name and colour', async () => {
    const id = await session();
    const told: SessionEvent[] = [];
    const end = subscribe(id, (e) => told.push(e));
    await namePerson('ada', { name: 'Ada', hue: 2 });
    expect(await noteHere(id, 'ada', 'w1', {})).toEqual({
      people: [{ seat: 'ada', name: 'Ada', hue: 2 }],
      recording: [],
    });
    await noteHere(id, 'ada', 'w2', {});
    await noteHere(id, 'ben', 'w3', {});
    expect(told).toHaveLength(2);
    await noteHere(id, 'ada', 'w1', { going: true });
    expect((await noteHere(id, 'ada', 'w2', { going: true })).people.map((p) => p.seat)).toEqual(['ben']);
    await namePerson('ben', { hue: 5 });
    end();
    expect(told.at(-1)).toMatchObject({ kind: 'here', people: [{ seat: 'ben', hue: 5 }] });
  });
  it('keeps a name and a colour that are sent at the same moment', async () => {
    await Promise.all([namePerson('cleo', { name: 'Cleo' }), namePerson('cleo', { hue: 4 })]);
    expect(await namePerson('cleo', {})).toEqual({ name: 'Cleo', hue: 4 });
  });
  it('gives everybody who comes a colour of their own while there are any', async () => {
    const id = await session();
    for (let i = 0; i < 6; i++) await noteHere(id, `guest${i}`, `g${i}`, {});
    const hues = (await noteHere(id, 'guest0', 'g0', {})).people.map((p) => p.hue);
    expect(new Set(hues).size).toBe(6);
  });
  it('has names and colours within limits', async () => {
    await expect(namePerson('ada', { name: 'x'.repeat(31) })).rejects.toThrow(/up to 30 letters/);
    await expect(namePerson('ada', { hue: 9 })).rejects.toThrow(/colours/);
  });
  it('hears with each change what each would undo next', async () => {
    const id = await session();
    await noteHere(id, 'ada', 'w1', {});
    await noteHere(id, 'ben', 'w2', {});
    const told: SessionEvent[] = [];
    const end = subscribe(id, (e) => told.push(e));
    await make('ada', id, level('a', -6));
    end();
    expect(told.at(-1)).toMatchObject({
      kind: 'change',
      change: { by: 'ada', histories: { ada: { undo: 'set track level' }, ben: { undo: 'add track a' } } },
    });
  });
});

it('a take that was taken from its track comes back whole', async () => {
  const id = await session();
  await make('ada', id, take('t1', 'a', 0, 48_000));
  const before = (await openSession(id)).doc;
  await as('ada', () => travel(id, 'undo'));
  expect((await openSession(id)).doc.tracks[0]!.takes).toEqual([]);
  await as('ada', () => travel(id, 'redo'));
  expect((await openSession(id)).doc).toEqual(before);
});
