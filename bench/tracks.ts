// How many tracks the engine carries in Chromium's audio worklet: two bells, compressor and 5.1 pan each. Looks for
// the largest number at half load, then holds the asked number for ten minutes (or as many seconds as are given)
// and counts gaps. A page that does nothing but sound beside it is the control: where both clocks stand still at one
// time, the machine stood still, not the engine.
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { build } from 'esbuild';
import { compilePlan } from '../src/core/engine';
import { newBus, newSession, newStage, newTrack } from '../src/core/session';
import { newKernels } from '../src/server/kernels';
import { FORMAT } from '../tests/support/session';
import { report } from './timing';

const hold = Number(process.argv[2] ?? 600);
const AIM = 160;
const HALF = 0.5;
const root = path.resolve(import.meta.dirname, '..');

function planOf(tracks: number): string {
  const doc = newSession('Bench', 'BN', { ...FORMAT });
  doc.buses = [newBus('ref', 'Reference', 'RE', 'reference', -1, '5.1', 'monitor')];
  doc.tracks = Array.from({ length: tracks }, (_, i) => {
    const t = newTrack(`t${i}`, `Track ${i + 1}`, 'mono', 'ref');
    t.placement = { azimuth: -180 + ((i * 37) % 360), distance: 0.8, width: 60, lfe: -12 };
    const eq = newStage(`t${i}-eq`, 'eq');
    Object.assign(eq.values, { f1: 160, g1: -3, q1: 1, f2: 3000, g2: 2.5, q2: 0.9 });
    t.chain = [eq, newStage(`t${i}-comp`, 'compressor', true)];
    t.level = -24;
    return t;
  });
  return JSON.stringify(compilePlan(newKernels(), doc, { mode: 'live' }));
}

async function serve(): Promise<{ url: string; close: () => void }> {
  const bundle = await build({
    entryPoints: [path.join(root, 'bench/tracks.worklet.ts')],
    bundle: true,
    write: false,
    format: 'esm',
    target: 'es2022',
    minify: true,
    platform: 'neutral',
    mainFields: ['module', 'main'],
    alias: { '@': path.join(root, 'src') },
  });
  const files: Record<string, [string, string | Uint8Array]> = {
    '/': ['text/html', '<!doctype html><title>tracks</title>'],
    '/worklet.js': ['text/javascript', bundle.outputFiles[0]!.contents],
    '/kernels.wasm': ['application/wasm', readFileSync(path.join(root, 'build/kernels.wasm'))],
  };
  const server = createServer((request, response) => {
    const [type, body] = files[request.url!] ?? ['text/plain', ''];
    response.writeHead(200, { 'Content-Type': type }).end(body);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, close: () => server.close() };
}

/** Processor seconds that the host of this virtual machine took away (the eighth figure of /proc/stat). */
const stolen = (): number => Number(readFileSync('/proc/stat', 'utf8').split('\n')[0]!.split(/\s+/)[8] ?? 0) / 100;

interface Held {
  load: number;
  /** Milliseconds of sound that came too late, and how often. */
  late: number;
  gaps: number;
  /** When the gaps were noticed, in milliseconds since 1970. */
  at: number[];
}

// The clock of the output against that of the machine: where the output stands still, sound was missing.
// No plan: a worklet that only counts, the control.
const held = (page: Page, plan: string | null, seconds: number): Promise<Held> =>
  page.evaluate(
    async ([planText, wanted]) => {
      const context = new AudioContext({ sampleRate: 48000, latencyHint: 'playback' });
      await context.audioWorklet.addModule('/worklet.js');
      const module = await WebAssembly.compileStreaming(fetch('/kernels.wasm'));
      const node = new AudioWorkletNode(context, planText === null ? 'idle' : 'tracks', {
        outputChannelCount: [2],
        processorOptions: { module, plan: planText === null ? null : (JSON.parse(planText) as unknown) },
      });
      const loads: number[] = [];
      let [behind, late] = [Infinity, 0];
      const at: number[] = [];
      const done = new Promise<void>((resolve) => {
        node.port.onmessage = ({ data }: MessageEvent<number>) => {
          loads.push(data);
          const now = performance.now() - context.currentTime * 1000;
          // The first second still settles; afterwards a lasting lag of more than 60 ms is a gap.
          if (loads.length > 2 && now - behind > 60) {
            at.push(Date.now());
            late += now - behind;
            behind = now;
          }
          behind = loads.length <= 2 ? now : Math.min(behind, now);
          if (loads.length >= wanted) resolve();
        };
      });
      node.connect(context.destination);
      await context.resume();
      await done;
      await context.close();
      const counted = loads.slice(1);
      return { load: counted.reduce((a, b) => a + b, 0) / counted.length, late, gaps: at.length, at };
    },
    [plan, seconds] as const,
  );

const server = await serve();
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--mute-audio', '--autoplay-policy=no-user-gesture-required'],
});
try {
  const page = await browser.newPage();
  await page.goto(server.url);
  await held(page, planOf(32), 3);
  const { load } = await held(page, planOf(64), 6);
  // The load grows with the tracks: from one measurement to a first number, then to its neighbour at half load.
  let tracks = Math.max(8, Math.round(((HALF / load) * 64) / 8) * 8);
  let last = await held(page, planOf(tracks), 8);
  for (let tries = 0; tries < 12 && last.load > HALF; tries++) {
    tracks -= 8;
    last = await held(page, planOf(tracks), 8);
  }
  // The asked number is what must hold; the number at half load is what could.
  const asked = Math.min(AIM, tracks);
  const before = stolen();
  const control = await browser.newPage();
  await control.goto(server.url);
  const [long, idle] = await Promise.all([held(page, planOf(asked), hold), held(control, null, hold)]);
  // Each page tells once a second, so one stop of the machine is noticed by both within two.
  const own = long.at.filter((t) => !idle.at.some((u) => Math.abs(t - u) <= 2000));
  const steal = (stolen() - before) / hold;
  report({
    case: `tracks in Chromium at half load: two bells, compressor, 5.1 pan each; ${asked} of them held for ${hold} s`,
    reference: `the audio clock: load ${(long.load * 100).toFixed(0)} %, ${long.gaps} gaps of together ${long.late.toFixed(0)} ms, ${own.length} of them without one of an idle page beside it (which met ${idle.gaps} of ${idle.late.toFixed(0)} ms); the host took ${(steal * 100).toFixed(0)} % of a processor away meanwhile`,
    tracks,
    load: long.load,
    late: long.late,
    gaps: long.gaps,
    own: own.length,
    idleGaps: idle.gaps,
    idleLate: idle.late,
    steal,
    aim: AIM,
  });
} finally {
  await browser.close();
  server.close();
}
