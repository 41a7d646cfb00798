import type { EditJson } from '../src/core/session';
import { frames } from './sounds/random';

/** Seconds and dB of a level that follows the timeline. */
const lane = (node: string, points: readonly (readonly [at: number, db: number])[]): EditJson => ({
  type: 'writeLane',
  target: { node, param: 'level' },
  from: 0,
  to: frames(points.at(-1)![0]),
  points: points.map(([at, value]) => ({ at: frames(at), value, shape: 'smooth' as const })),
});

const SENDS: readonly (readonly [track: string, db: number])[] = [
  ['pilot', -14],
  ['apprentice', -13],
  ['foghorn', -9],
  ['bell', -12],
];

/**
 * What the demo has beyond tracks that go straight to stems: the harbour as a group, its air as a return with a room for
 * each stem, a second reference without narration, the stems of the first limited together, and levels that follow the
 * timeline.
 */
export const DEMO_PATHS: readonly EditJson[] = [
  { type: 'addBus', kind: 'bus', id: 'harbour', name: 'Harbour', sources: ['foghorn', 'boat', 'ropes', 'bell'] },
  { type: 'addBus', kind: 'return', id: 'air', name: 'Harbour air', sources: SENDS.map(([track]) => track) },
  ...SENDS.map(([track, level]): EditJson => ({ type: 'setSend', owner: track, send: `air-${track}`, level })),
  { type: 'addStage', owner: { kind: 'bus', id: 'air' }, id: 'air-reverb', stage: 'reverb' },
  {
    type: 'setStage',
    owner: { kind: 'bus', id: 'air' },
    stage: 'air-reverb',
    values: { decay: 1.8, preDelay: 28, damping: 45, size: 22 },
  },
  { type: 'addReference', id: 'mne', name: 'Without narration', leftOut: ['nar'] },
  { type: 'setDeliverable', deliverable: 'print-mne', token: 'MNE' },
  { type: 'setReference', bus: 'ref', linked: { on: true, ceiling: -1, release: 80, peaks: 'true' } },
  lane('pad', [
    [0, -14],
    [5, -3.5],
    [40, -3.5],
    [47, -1.5],
    [78, -3.5],
    [89.5, -30],
  ]),
  lane('surf', [
    [0, -4],
    [14, -6],
    [33, -6],
    [45, -4.5],
    [60, -6.5],
    [84, -5],
    [89.5, -16],
  ]),
];
