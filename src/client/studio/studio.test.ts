import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { stubFrames } from '../../../tests/support/frames';
import { applied, monoTrack, sessionWith, take } from '../../../tests/support/session';
import { eventually } from '../../../tests/support/eventually';
import { meterFrame, recorderStub, sessionAt, silentSound } from '../../../tests/support/studio';
import type { EditJson, SessionDoc } from '@/core/session';
import { Studio } from './studio';

const said = vi.hoisted(() => ({ all: [] as string[] }));
vi.mock('sonner', () => {
  const say = (text: string) => void said.all.push(text);
  return { toast: Object.assign(say, { error: say, warning: say, message: say, success: say, dismiss: () => {} }) };
});

beforeEach(() => {
  said.all = [];
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ free: 1e12, missing: [] })));
  stubFrames();
});
afterEach(() => vi.unstubAllGlobals());

const RATE = 48_000;

/** One track that is armed and patched to line 1. */
const patched = (): SessionDoc =>
  sessionWith(
    monoTrack('voice', 'Narrator'),
    { type: 'addLine', device: 'd', channel: 0, name: 'Booth' },
    { type: 'patch', track: 'voice', channel: 0, line: 'd/1' },
    { type: 'seatTrack', track: 'voice', armed: true },
  );

function open(doc: SessionDoc, id = 'one', recorder = recorderStub()) {
  const session = sessionAt(doc, id);
  const sound = silentSound();
  const studio = new Studio(session, { startPlayer: sound.start, recorder });
  const state = () => studio.transport.state.getState();
  /** The engine has rolled so many frames. */
  const rolled = (frames: number) => sound.players.at(-1)!.events.onMeters(meterFrame({ rolled: frames }));
  return { session, studio, recorder, players: sound.players, state, rolled };
}

it('plays from where it stands, and tells where it is by what the engine has rolled', async () => {
  const { studio, players, state, rolled } = open(patched());
  studio.transport.locate(2 * RATE);
  await studio.transport.play();
  expect(state().state).toBe('playing');
  expect(players[0]!.rolls[0]).toMatchObject({ session: 'one', position: 2 * RATE, taps: [] });
  rolled(RATE);
  expect(studio.transport.position()).toBeGreaterThanOrEqual(3 * RATE);
  studio.transport.stop();
  expect(state().position).toBeGreaterThanOrEqual(3 * RATE);
  await studio.close();
});

it('two sessions that are open know nothing of each other', async () => {
  const [one, two] = [open(patched(), 'one'), open(patched(), 'two')];
  await one.studio.transport.play();
  one.studio.marks.setStretch({ start: 0, end: RATE });
  one.studio.devices.show('standin-console');
  expect(two.state().state).toBe('stopped');
  expect(two.studio.marks.stretch.getState().stretch).toBeNull();
  expect(two.studio.devices.state.getState().shown).not.toBe('standin-console');
  expect(two.players).toHaveLength(0);
  await Promise.all([one.studio.close(), two.studio.close()]);
});

it('ends its sound with the session, and nothing of it acts on the next one', async () => {
  const { session, studio, players } = open(patched());
  await studio.transport.play();
  const closing = studio.close();
  players[0]!.events.onStopped(RATE);
  await closing;
  expect(players[0]!.ended).toBe(true);
  expect(session.guards.size).toBe(0);
  players[0]!.told.length = 0;
  session.edit({ type: 'setTrack', track: 'voice', level: -6 });
  await new Promise((resolve) => setTimeout(resolve, 5));
  expect(players[0]!.told).toEqual([]);
  await expect(studio.engine.sound()).rejects.toThrow('closed');
});

it('a session that is left while sound starts is not heard afterwards', async () => {
  const { studio, players } = open(patched());
  const starting = studio.engine.sound();
  const closing = studio.close();
  await expect(starting).rejects.toThrow('closed');
  await closing;
  expect(players[0]!.ended).toBe(true);
});

it('a take ends where its session was left, is delivered beside the next one, and its faults are told', async () => {
  const { studio, recorder, players, rolled } = open(patched());
  await studio.transport.record(true);
  const job = recorder.told.find((m) => m.kind === 'record')!;
  if (job.kind !== 'record') throw new Error('nothing is recorded');
  expect(job.job).toMatchObject({ session: 'one', track: 'voice' });
  rolled(2 * RATE);
  const closing = studio.close();
  players[0]!.events.onStopped(2 * RATE + 100);
  await closing;
  expect(recorder.told.at(-1)).toMatchObject({ kind: 'stop', id: job.job.id, frames: 2 * RATE + 100 });
  expect(said.all.join()).toContain('left while it recorded');

  const next = open(sessionWith(), 'two', recorder);
  expect(next.studio.takes.underWay()).toBe(true);
  said.all = [];
  recorder.say({ kind: 'finished', id: job.job.id, faults: ['The disk was full.'] });
  expect(said.all).toEqual(['Narrator: The disk was full.']);
  expect(next.studio.takes.underWay()).toBe(false);
  await next.studio.close();
});

it('the format stays while a take is on its way, and changes once it is there', async () => {
  const { session, studio, recorder, players } = open(patched());
  await studio.transport.record(true);
  const rate: EditJson = { type: 'setFormat', wordLength: 16 };
  expect(session.edit(rate)).toBe(false);
  studio.transport.stop();
  players[0]!.events.onStopped(RATE);
  expect(session.edit(rate)).toBe(false);
  const job = recorder.told.find((m) => m.kind === 'record')!;
  recorder.say({ kind: 'finished', id: job.kind === 'record' ? job.job.id : '', faults: [] });
  expect(session.edit(rate)).toBe(true);
  await studio.close();
});

it('sound begins anew at another rate, and what rolls ends', async () => {
  const { session, studio, players, state } = open(patched());
  await studio.transport.play();
  session.store.setState({
    doc: { ...session.getState().doc!, format: { ...session.getState().doc!.format, sampleRate: 96_000 } },
  });
  await eventually(() => expect(players[0]!.ended).toBe(true));
  expect(state().state).toBe('stopped');
  await studio.transport.play();
  expect(players[1]!.context.sampleRate).toBe(96_000);
  await studio.close();
});

it('a take is heard in the place of its clips until it stops', async () => {
  const doc = applied(patched(), take('t1', 'voice', RATE, RATE), take('t2', 'voice', 4 * RATE, RATE));
  const { studio, players } = open(doc);
  studio.hearing.hearTake({ track: 'voice', take: 't2', alone: false, gain: -3 });
  await eventually(() => expect(players[0]?.rolls).toHaveLength(1));
  const [roll] = players[0]!.rolls;
  expect(roll!.position).toBe(4 * RATE);
  expect(roll!.tracks[0]!.clips).toMatchObject([{ media: 't2-m', gain: -3 }]);
  studio.hearing.hearComp();
  expect(studio.heardTake.track).toBeNull();
  await studio.close();
});

it('a take that stood alone stops at its end, and the playhead goes back to where it was', async () => {
  const { studio, state, rolled } = open(applied(patched(), take('t1', 'voice', 4 * RATE, RATE)));
  studio.transport.locate(RATE);
  studio.hearing.hearTake({ track: 'voice', take: 't1', alone: false, gain: 0 });
  await eventually(() => expect(state().state).toBe('playing'));
  rolled(RATE - 100);
  expect(state().state).toBe('playing');
  rolled(RATE);
  expect(state()).toMatchObject({ state: 'stopped', position: RATE });
  expect(studio.heardTake.track).toBeNull();
  await studio.close();
});

it('a take that is put in while the comp plays gives way to it at its end, and playing goes on', async () => {
  const { studio, state, players, rolled } = open(applied(patched(), take('t1', 'voice', RATE, 2 * RATE)));
  studio.transport.locate(RATE);
  await studio.transport.play();
  rolled(RATE / 2);
  studio.hearing.hearTake({ track: 'voice', take: 't1', alone: false, gain: -6 });
  expect(studio.heardTake.track).toBe('voice');
  rolled(2 * RATE);
  expect(state().state).toBe('playing');
  expect(studio.heardTake.track).toBeNull();
  expect(players[0]!.rolls).toHaveLength(1);
  await studio.close();
});

it('a line is played again from its start, once or round and round', async () => {
  const { studio, players, state, rolled } = open(patched());
  studio.transport.locate(7 * RATE);
  await studio.transport.playStretch({ start: RATE, end: 3 * RATE });
  expect(players[0]!.rolls.at(-1)).toMatchObject({ position: RATE, loop: null });
  rolled(2 * RATE);
  expect(state()).toMatchObject({ state: 'stopped', position: 7 * RATE });
  // Stopped by hand before its end it stays there; what was to happen at the end does not.
  await studio.transport.playStretch({ start: RATE, end: 3 * RATE });
  rolled(RATE);
  studio.transport.stop();
  const here = state().position;
  expect(here).toBeLessThan(3 * RATE);
  await studio.transport.play();
  rolled(3 * RATE);
  expect(state().state).toBe('playing');
  await studio.transport.playStretch({ start: RATE, end: 3 * RATE }, true);
  expect(players[0]!.rolls.at(-1)).toMatchObject({ position: RATE, loop: { start: RATE, end: 3 * RATE } });
  rolled(5 * RATE);
  expect(state().state).toBe('playing');
  await studio.close();
});

it('a device that goes away ends the take that it carries', async () => {
  const { studio, state } = open(patched());
  await studio.transport.record(true);
  studio.devices.events.emit('vanished', { device: 'other', name: 'Other' });
  expect(state().state).toBe('recording');
  studio.devices.events.emit('vanished', { device: 'd', name: 'Eight' });
  expect(state().state).toBe('stopped');
  expect(said.all.at(-1)).toContain('Narrator: everything until then is kept as a take');
  await studio.close();
});
