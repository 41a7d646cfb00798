// The engine in blocks of the browser, 64 tracks into 9.1.6 and a room of sixteen loudspeakers with delays: its load.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { compilePlan, Engine } from '../src/core/engine';
import { Kernels } from '../src/core/kernels';
import { newRoom, portsFrom } from '../src/core/rooms';
import { newBus, newSession, newStage, newTrack } from '../src/core/session';
import { report } from './timing';

const TRACKS = 64;
const BLOCK = 128;
const SECONDS = 20;
const RATE = 48_000;
const LOAD = 0.5;

const doc = newSession('Bench', 'BN', {
  ...{ sampleRate: RATE, wordLength: 24, fileKind: 'Broadcast WAV', frameRate: '25' },
  ...{ startTimecode: '00:00:00:00', layout: '9.1.6' },
});
doc.buses = [
  ...Array.from({ length: 6 }, (_, i) => newBus(`s${i}`, `Stem ${i + 1}`, `S${i}`, 'stem', i, '9.1.6', 'ref')),
  { ...newBus('ref', 'Reference', 'RE', 'reference', -1, '9.1.6', 'monitor'), chain: [newStage('lim', 'limiter')] },
];
doc.deliverables = [];
doc.tracks = Array.from({ length: TRACKS }, (_, i) => {
  const t = newTrack(`t${i}`, `Track ${i + 1}`, 'mono', `s${i % 6}`);
  t.placement = { azimuth: -170 + i * 5, elevation: (i * 7) % 60, distance: 1, width: 60, lfe: -100 };
  t.chain = [newStage(`t${i}-cut`, 'lowCut'), newStage(`t${i}-eq`, 'eq'), newStage(`t${i}-comp`, 'compressor', true)];
  return t;
});
const room = portsFrom(newRoom('Bench', 'out', '9.1.6'), 1);
room.speakers.forEach((s, i) => Object.assign(s, { trim: -i / 4, delay: i / 5 }));

const module = new WebAssembly.Module(readFileSync(path.join(import.meta.dirname, '../build/kernels.wasm')));

function load(head: boolean): number {
  const k = new Kernels(module);
  const engine = new Engine(k, 1024, { meters: true });
  engine.load(compilePlan(k, doc, { mode: 'live', room: { room, channels: 16 }, head }));
  const noise = Float32Array.from({ length: BLOCK }, (_, i) => 0.1 * Math.sin(i * i));
  const run = (blocks: number) => {
    for (let b = 0; b < blocks; b++) {
      engine.begin(BLOCK);
      for (const t of doc.tracks) engine.node(t.id).buffer.view(0, BLOCK).set(noise);
      engine.run(BLOCK, b * BLOCK);
    }
  };
  run(500);
  const began = performance.now();
  run(Math.round((SECONDS * RATE) / BLOCK));
  return (performance.now() - began) / 1000 / SECONDS;
}

for (const [what, head] of [
  ['a room of 16 loudspeakers', false],
  ['the same, and two ears around a head', true],
] as const) {
  const share = load(head);
  report({
    case: `64 tracks into 9.1.6, ${what}: load of one processor`,
    reference: 'real time',
    figure: `${(share * 100).toFixed(0)} %`,
    met: share < LOAD,
    aim: 50,
  });
}
