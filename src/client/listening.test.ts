import { beforeEach, expect, it, vi } from 'vitest';
import { noise } from '../../tests/support/kernels';
import { applied, sessionWith } from '../../tests/support/session';
import type { EditJson } from '@/core/session';

type Heard = (channels: Float32Array[]) => void;
const engine = vi.hoisted(() => ({ hear: null as Heard | null }));
vi.mock('./engine', () => ({
  ensurePlayer: () =>
    Promise.resolve({
      context: { sampleRate: 48_000 },
      listen: (_: string, heard: Heard) => {
        engine.hear = heard;
        return () => (engine.hear = null);
      },
    }),
}));
vi.mock('./devices', async () => {
  const { create } = await import('zustand');
  return { useDevices: create(() => ({ list: [{ id: 'd', state: 'on', lines: ['1', '2', '3', '4'] }] })) };
});

const { listenTo, stopListening, useListening } = await import('./listening');
const { useSession } = await import('./session');

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
function walk(): void {
  const sound = noise(4 * 48_000, 0.2, 5);
  let now = 0;
  vi.spyOn(performance, 'now').mockImplementation(() => (now += 500));
  for (let at = 0; at < sound.length; at += 4_800) {
    const place = Math.sin(at / 20_000);
    const side = (sign: number) => sound.subarray(at, at + 4_800).map((v) => v * (1 + 0.7 * sign * place));
    engine.hear!([side(1), side(-1), side(1), side(-1)]);
  }
  vi.restoreAllMocks();
}

beforeEach(() => stopListening());

it('finds the pair whose left and right are the other way round, until its cords are drawn anew', async () => {
  const doc = pairs([1, 2, 4, 3]);
  useSession.setState({ doc });
  await listenTo('d');
  walk();
  expect([...useListening.getState().swapped]).toEqual([['t1', 't0']]);
  expect(useListening.getState().heard.size).toBe(4);
  useSession.setState({
    doc: applied(
      doc,
      { type: 'patch', track: 't1', channel: 0, line: null },
      { type: 'patch', track: 't1', channel: 1, line: 'd/4' },
      { type: 'patch', track: 't1', channel: 0, line: 'd/3' },
    ),
  });
  expect(useListening.getState().swapped.size).toBe(0);
  walk();
  expect(useListening.getState().swapped.size).toBe(0);
});

it('says nothing of pairs that agree', async () => {
  useSession.setState({ doc: pairs([1, 2, 3, 4]) });
  await listenTo('d');
  walk();
  expect(useListening.getState().swapped.size).toBe(0);
});
