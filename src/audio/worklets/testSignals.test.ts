import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { sessionWith } from '../../../tests/support/session';
import { compilePlan, Engine, PORTS } from '@/core/engine';
import { newRoom, portsFrom } from '@/core/rooms';
import { TestSignals } from './testSignals';

const k = newKernels();
const BLOCK = 128;
const room = portsFrom(newRoom('Mixing room', 'out', '5.1'), 1);

function start() {
  const engine = new Engine(k, BLOCK);
  engine.load(compilePlan(k, sessionWith(), { mode: 'live', room: { room, channels: 6 } }));
  const tests = new TestSignals(k, 48_000, BLOCK);
  let now = 1_000;
  /** Runs so many blocks; what the ports gave. */
  const run = (blocks: number): Float32Array[] => {
    const out = Array.from({ length: 6 }, () => new Float32Array(blocks * BLOCK));
    for (let b = 0; b < blocks; b++) {
      engine.begin(BLOCK);
      tests.run(engine, BLOCK, now);
      engine.run(BLOCK, 0, true);
      out.forEach((p, c) => p.set(engine.node(PORTS).buffer.view(c, BLOCK), b * BLOCK));
      now += BLOCK;
    }
    return out;
  };
  return { tests, run };
}
const rms = (x: Float32Array) => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / x.length);
const step = (x: Float32Array) => x.slice(1).reduce((m, v, i) => Math.max(m, Math.abs(v - x[i]!)), 0);

describe('test signals', () => {
  it('sound on their speaker only, at their level, and tell when they began', () => {
    const { tests, run } = start();
    const begun: number[] = [];
    run(2);
    tests.set({ parts: [{ channel: 2, signal: { kind: 'pink', level: -40 } }], glides: true }, (at) => begun.push(at));
    const ports = run(800);
    expect(begun).toEqual([1_256]);
    expect(20 * Math.log10(rms(ports[2]!.subarray(BLOCK * 10)))).toBeCloseTo(-40, 0);
    for (const c of [0, 1, 3, 4, 5]) expect(rms(ports[c]!)).toBe(0);
  });
  it('come, change and go without a click', () => {
    const { tests, run } = start();
    const sine = (frequency: number) => ({
      parts: [{ channel: 0, signal: { kind: 'sine', level: -20, frequency } as const }],
      glides: true,
    });
    const peak = 10 ** (-20 / 20) * Math.SQRT2;
    tests.set(sine(100), () => {});
    const first = run(20)[0]!;
    tests.set(sine(200), () => {});
    const second = run(20)[0]!;
    tests.set(null, () => {});
    const third = run(20)[0]!;
    const all = Float32Array.from([...first, ...second, ...third]);
    // The steepest of both tones at once, and of the glides of 480 samples.
    const most = (peak * 2 * Math.PI * 300) / 48_000 + (2 * peak) / 480;
    expect(step(all)).toBeLessThanOrEqual(most);
    expect(tests.idle).toBe(true);
    expect(third.slice(-BLOCK).every((x) => x === 0)).toBe(true);
  });
  it('end by themselves after their frames', () => {
    const { tests, run } = start();
    const signal = { kind: 'sweep', level: -20, from: 200, to: 8000, seconds: 300 / 48_000 } as const;
    tests.set({ parts: [{ channel: 1, signal }], frames: 300, glides: false }, () => {});
    const [, port] = run(5);
    expect(port!.subarray(0, 300).some((x) => x !== 0)).toBe(true);
    expect(port!.subarray(300).every((x) => x === 0)).toBe(true);
    expect(tests.idle).toBe(true);
  });
});
