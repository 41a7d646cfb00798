import { expect, it } from 'vitest';
import { createStore } from 'zustand/vanilla';
import { noise } from '../../../tests/support/kernels';
import { applied, sessionWith } from '../../../tests/support/session';
import { sessionAt } from '../../../tests/support/studio';
import type { analyseLines, Player } from '@/audio';
import { LinesListener } from '@/core/measure';
import type { EditJson, SessionDoc } from '@/core/session';
import type { DeviceState } from './devices';
import { Listening } from './listening';

type Heard = (channels: Float32Array[]) => void;

const pairs = (order: readonly number[]) =>
  sessionWith(
    ...['Boat', 'Wind'].map((name, i): EditJson => ({
      type: 'addTrack',
      id: `t${i}`,
      name,
      layout: 'stereo',
      destination: 'amb',
    })),
    ...[1, 2, 3, 4].map((n): EditJson => ({ type: 'addLine', device: 'd', channel: n - 1, name: `Line ${n}` })),
    ...order.map((line, i): EditJson => ({ type: 'patch', track: `t${i >> 1}`, channel: i & 1, line: `d/${line}` })),
  );

/** Four seconds of somebody who walks about between lines 1 (and 3) and 2 (and 4), told in tenths of a second. */
function walk(hear: Heard): void {
  const sound = noise(4 * 48_000, 0.2, 5);
  for (let at = 0; at < sound.length; at += 4_800) {
    const place = Math.sin(at / 20_000);
    const side = (sign: number) => sound.subarray(at, at + 4_800).map((v) => v * (1 + 0.7 * sign * place));
    hear([side(1), side(-1), side(1), side(-1)]);
  }
}

function listeningTo(doc: SessionDoc) {
  const session = sessionAt(doc);
  let hear: Heard = () => {};
  const player = {
    context: { sampleRate: 48_000 },
    listen: (_: string, heard: Heard) => {
      hear = heard;
      return () => (hear = () => {});
    },
  } as unknown as Player;
  const device = { id: 'd', state: 'on', lines: ['1', '2', '3', '4'] } as unknown as DeviceState;
  const devices = {
    find: () => device,
    state: createStore(() => ({ list: [device], shown: 'd' })),
  };
  // What a worker does beside the page is done here in it.
  const analyse: typeof analyseLines = (rate, width, pairs, onHeard) => {
    const lines = new LinesListener(rate, width, pairs);
    return {
      run(channels) {
        lines.run(channels);
        onHeard(lines.heard());
      },
      setPairs: (all) => lines.setPairs(all),
      close: () => {},
    };
  };
  const listening = new Listening(session, { sound: () => Promise.resolve(player) }, devices, analyse);
  return { session, listening, found: listening.state.getState, walk: () => walk((channels) => hear(channels)) };
}

it('finds the pair whose left and right are the other way round, until its cords are drawn anew', async () => {
  const doc = pairs([1, 2, 4, 3]);
  const { session, listening, found, walk } = listeningTo(doc);
  await listening.listenTo('d');
  walk();
  expect([...found().swapped]).toEqual([['t1', 't0']]);
  expect(found().heard.size).toBe(4);
  session.store.setState({
    doc: applied(
      doc,
      { type: 'patch', track: 't1', channel: 0, line: null },
      { type: 'patch', track: 't1', channel: 1, line: 'd/4' },
      { type: 'patch', track: 't1', channel: 0, line: 'd/3' },
    ),
  });
  expect(found().swapped.size).toBe(0);
  walk();
  expect(found().swapped.size).toBe(0);
});

it('says nothing of pairs that agree', async () => {
  const { listening, found, walk } = listeningTo(pairs([1, 2, 3, 4]));
  await listening.listenTo('d');
  walk();
  expect(found().swapped.size).toBe(0);
});
