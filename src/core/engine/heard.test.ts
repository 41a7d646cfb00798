// What a performer hears of the own line is not held back by what looks ahead behind it.
import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { sessionWith } from '../../../tests/support/session';
import type { EditJson, SessionDoc } from '@/core/session';
import { compilePlan, Engine } from '.';

const k = newKernels();
const N = 2048;

const session = (...edits: EditJson[]): SessionDoc =>
  sessionWith(
    { type: 'addTrack', id: 'v', name: 'V', layout: 'mono', destination: 'dia' },
    { type: 'placeTrack', track: 'v', placement: { azimuth: 40, distance: 0.7, width: 0, lfe: -12 } },
    { type: 'addTrack', id: 'm', name: 'M', layout: 'mono', destination: 'mus' },
    { type: 'addLine', device: 'dev', channel: 0, name: 'One' },
    { type: 'patch', track: 'v', channel: 0, line: 'dev/1' },
    { type: 'setChain', owner: { kind: 'line', id: 'dev/1' }, chain: [] },
    { type: 'setTrack', track: 'v', level: -4 },
    { type: 'seatTrack', track: 'v', armed: true },
    { type: 'setBus', bus: 'dia', level: -2, trim: 1 },
    ...edits,
  );
const stage = (bus: string, kind = 'limiter'): EditJson => ({
  type: 'addStage',
  owner: { kind: 'bus', id: bus },
  id: `${bus}-l`,
  stage: kind,
});
const hall: EditJson[] = [
  { type: 'addTracks', tracks: [{ id: 'hall', name: 'Hall', layout: 'mono', kind: 'return', destination: 'amb' }] },
  { type: 'addSend', owner: 'v', id: 's', to: 'hall' },
];

/** What a node holds after an impulse on another. */
function impulse(doc: SessionDoc, source: string, at = 'monitor'): Float32Array[] {
  const engine = new Engine(k, N);
  engine.load(compilePlan(k, doc, { mode: 'live', rolling: true }));
  engine.begin(N);
  engine.node(source).buffer.view(0, N)[0] = 0.1;
  engine.run(N);
  const { buffer } = engine.node(at);
  return Array.from({ length: buffer.channels }, (_, c) => buffer.view(c, N).slice());
}
const first = (channels: Float32Array[]) =>
  Math.min(...channels.map((c) => c.findIndex((v) => v !== 0)).filter((i) => i >= 0));

describe('a line that is heard', () => {
  const cases: [string, EditJson[]][] = [
    ['a limiter on its own stem', [stage('dia')]],
    ['a limiter on another stem', [stage('mus')]],
    ['a limiter on the reference', [stage('ref')]],
    [
      'stems that are limited together',
      [{ type: 'setReference', bus: 'ref', linked: { on: true, ceiling: -1, release: 80, peaks: 'true' } }],
    ],
  ];
  it.each(cases)('comes at once, at the same levels, with %s', (_, edits) => {
    const plain = impulse(session(), 'dev/1');
    const heard = impulse(session(...edits), 'dev/1');
    expect(first(heard)).toBe(0);
    heard.forEach((c, i) => expect(c[0]).toBeCloseTo(plain[i]![0]!, 7));
    // What is played waits for what looks ahead.
    expect(first(impulse(session(...edits), 'v'))).toBeGreaterThan(70);
  });
  it('goes the way of its track while nothing delays: buses are heard on it', () => {
    const louder = session(stage('dia', 'trim'), {
      type: 'setStage',
      owner: { kind: 'bus', id: 'dia' },
      stage: 'dia-l',
      values: { gain: 6 },
    });
    const sum = (channels: Float32Array[]) => channels.reduce((s, c) => s + c[0]!, 0);
    expect(sum(impulse(louder, 'dev/1')) / sum(impulse(session(), 'dev/1'))).toBeCloseTo(10 ** (6 / 20), 4);
  });
  it('is in its reverb all the same', () => {
    expect(first(impulse(session(stage('ref'), ...hall), 'dev/1', 'hall'))).toBe(0);
  });
  it('is silent where its track or stem is muted, or another one is soloed', () => {
    const silent = (edit: EditJson) => first(impulse(session(stage('ref'), edit), 'dev/1'));
    expect(silent({ type: 'setTrack', track: 'v', muted: true })).toBe(Infinity);
    expect(silent({ type: 'seatTrack', track: 'm', soloed: true })).toBe(Infinity);
    expect(silent({ type: 'setBus', bus: 'dia', muted: true })).toBe(Infinity);
  });
});
