import { describe, expect, it } from 'vitest';
import { ChannelSet } from '@/core/kernels';
import { newRoom, portsFrom, setSpeaker, type Room } from '@/core/rooms';
import { layoutOf, LAYOUTS } from '@/core/speakers';
import { newKernels } from '../../../../tests/support/kernels';
import { applied, sessionWith } from '../../../../tests/support/session';
import { Engine } from '../engine';
import { EARS, HEARD_AS, PORTS, speakerNode, TEST } from '../plan';
import { compilePlan } from '.';

const k = newKernels();
const room = portsFrom(newRoom('Mixing room', 'out', '5.1'), 3);

/** Runs a live plan with `fill` laid into a node; the ports, or what comes to two ears. */
function heard(
  layout: (typeof LAYOUTS)[number]['id'],
  inRoom: Room | null,
  fill: { node: string; channel: number },
  options: { heardAs?: 'mono' | 'stereo'; read?: string } = {},
): number[][] {
  const doc = applied(sessionWith(), { type: 'setFormat', layout }, { type: 'setMonitor', level: 0 } as never);
  const plan = compilePlan(k, doc, {
    mode: 'live',
    room: inRoom ? { room: inRoom, channels: 12 } : null,
    heardAs: options.heardAs ? { as: 'layout', layout: options.heardAs } : null,
  });
  const engine = new Engine(k, 512);
  engine.load(plan);
  engine.begin(512);
  engine.node(fill.node).buffer.view(fill.channel, 512)[0] = 1;
  engine.run(512);
  const out: ChannelSet = engine.node(options.read ?? PORTS).buffer;
  return Array.from({ length: out.channels }, (_, c) => [...out.view(c, 512)]);
}

/** Ports (from 1) that sound, with the sample and what stands there. */
const peaks = (ports: number[][]) =>
  ports.flatMap((p, i) => p.flatMap((x, at) => (x === 0 ? [] : [[i + 1, at, Number(x.toFixed(4))]])));

describe('the loudspeakers of a room', () => {
  it('are given what is meant for them, on their ports', () => {
    layoutOf('5.1').speakers.forEach((_, c) => {
      expect(peaks(heard('5.1', room, { node: 'monitor', channel: c }))).toEqual([[c + 3, 0, 1]]);
    });
  });
  it('have their trim, sign and delay; a muted one and one without a port are silent', () => {
    const set = setSpeaker(room, 'L', { trim: -6, inverted: true, delay: 1 });
    expect(peaks(heard('5.1', set, { node: 'monitor', channel: 0 }))).toEqual([[3, 48, -0.5012]]);
    for (const part of [{ muted: true }, { port: null }])
      expect(peaks(heard('5.1', setSpeaker(room, 'C', part), { node: 'monitor', channel: 2 }))).toEqual([]);
  });
  it('of another layout than the mix take it folded', () => {
    const stereo = portsFrom(newRoom('Small', 'out', 'stereo'), 1);
    expect(peaks(heard('5.1', stereo, { node: 'monitor', channel: 2 }))).toEqual([
      [1, 0, 0.7071],
      [2, 0, 0.7071],
    ]);
  });
  it('are there for every layout of the list, each speaker on a port of its own', () => {
    for (const { id, speakers } of LAYOUTS.filter((l) => l.speakers.length <= 12)) {
      const own = portsFrom(newRoom('Any', 'out', id), 1);
      speakers.forEach((s, c) => {
        expect(peaks(heard(id, own, { node: 'monitor', channel: c })), `${id} ${s.label}`).toEqual([[c + 1, 0, 1]]);
      });
    }
  });
});

describe('test signals', () => {
  it('reach the loudspeaker that is meant, trimmed, and two ears where there is none', () => {
    expect(peaks(heard('5.1', setSpeaker(room, 'Rs', { trim: -20 }), { node: TEST, channel: 5 }))).toEqual([
      [8, 0, 0.1],
    ]);
    expect(peaks(heard('5.1', room, { node: TEST, channel: 3 }, { read: EARS })).map((p) => p[0])).toEqual([1, 2]);
  });
  it('are in no print, nor is the room', () => {
    const doc = sessionWith();
    const live = compilePlan(k, doc, { mode: 'live', room: { room, channels: 12 } });
    const from = new Set([TEST]);
    for (const n of live.nodes) if (from.has(n.id)) for (const l of n.links) from.add(l.to);
    const reached = [...from].filter((id) => id !== TEST).sort();
    expect(reached).toEqual([EARS, PORTS, ...room.speakers.map((s) => speakerNode(s.label))].sort());
    const print = compilePlan(k, doc, { mode: 'print', room: { room, channels: 12 } });
    expect(print.nodes.filter((n) => ['test', 'speaker', 'ports', 'monitor', 'ears'].includes(n.kind))).toEqual([]);
  });
});

describe('the monitor heard as something narrower', () => {
  // ITU-R BS.775: mono is 0.7071 (L + R) + C + 0.5 (Ls + Rs).
  it('in mono: by BS.775, on two ears and in the room', () => {
    const gains = [0.7071, 0.7071, 1, 0, 0.5, 0.5];
    gains.forEach((gain, channel) => {
      const [mono] = heard('5.1', null, { node: 'monitor', channel }, { heardAs: 'mono', read: HEARD_AS });
      expect(mono![0]).toBeCloseTo(gain, 3);
      const ports = peaks(heard('5.1', room, { node: 'monitor', channel }, { heardAs: 'mono' }));
      expect(ports).toEqual(gain === 0 ? [] : [[5, 0, Number(gain.toFixed(4))]]);
    });
  });
});
