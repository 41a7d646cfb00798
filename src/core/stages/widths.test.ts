// What holds for every stage at every width from mono to 9.1.6.
import { describe, expect, it } from 'vitest';
import { LAYOUTS } from '@/core/speakers';
import { newKernels, noise, sine } from '../../../tests/support/kernels';
import { peak, runStage } from '../../../tests/support/stages';
import { defaultsOf, STAGE_KINDS, stageKind, type StageValues } from '.';

const k = newKernels();
const RATE = 48000;
const working: Record<string, StageValues> = {
  trim: { gain: -6 },
  eq: { g1: 4, t2: 1, g2: -3, t3: 2, g3: 5, t8: 3 },
  gate: { threshold: 0, ratio: 4, range: -30, hold: 5 },
  compressor: { threshold: -30, makeup: 3 },
  deEsser: { threshold: -50 },
  delay: { time: 2 },
  reverb: { decay: 0.5, size: 4, preDelay: 0 },
  limiter: { ceiling: -9 },
};
const linkable = STAGE_KINDS.filter((s) => s.params.some((p) => p.id === 'link')).map((s) => s.type);
const widths = [...new Set(LAYOUTS.map((l) => l.speakers.length))];

describe.each(widths)('%i channels', (width) => {
  const signal = Array.from({ length: width }, (_, c) => noise(4000, 0.9 / (1 + c), c + 3));
  it.each(STAGE_KINDS.map((s) => s.type))('%s works, finite and the same in any block', (type) => {
    const a = runStage(k, type, working[type] ?? {}, signal, { block: 128 }).out;
    const b = runStage(k, type, working[type] ?? {}, signal, { block: 500 }).out;
    expect(a).toEqual(b);
    expect(a).not.toEqual(signal);
    for (const c of a) expect(Number.isFinite(peak(c))).toBe(true);
  });
  it.each(linkable)('%s, each alone, is what one channel by itself gives', (type) => {
    const values = { ...working[type], link: 0 };
    const { out } = runStage(k, type, values, signal);
    // Rooms of their own differ by channel: compare the first, which is the variant itself.
    const compare = type === 'reverb' ? [0] : out.map((_, c) => c);
    for (const c of compare) expect(out[c]).toEqual(runStage(k, type, values, [signal[c]!]).out[0]);
  });
  it.each(linkable.filter((t) => t !== 'reverb' && t !== 'deEsser'))('%s, linked, keeps the balance', (type) => {
    const soft = Array.from({ length: width }, (_, c) => signal[0]!.map((v) => v / (1 + c)));
    const { out } = runStage(k, type, { ...working[type], link: 1 }, soft);
    const worst = out.reduce(
      (m, ch, c) => ch.reduce((w, v, i) => Math.max(w, Math.abs(v * (1 + c) - out[0]![i]!)), m),
      0,
    );
    expect(worst).toBeLessThan(1e-5);
  });
});

describe('changing a value while it sounds makes no click', () => {
  // A click is a kink: the largest second difference just after the change against what the tone has anyway.
  const tone = sine(RATE, RATE, 180, 0.4);
  const kink = (x: Float32Array, from: number, to: number) => {
    let top = 0;
    for (let i = Math.max(2, from); i < to; i++) top = Math.max(top, Math.abs(x[i]! - 2 * x[i - 1]! + x[i - 2]!));
    return top;
  };
  // Kinds of limiting differ in delay, so that choice starts anew (and is told in its description).
  const cases = STAGE_KINDS.flatMap((s) =>
    s.params.filter((p) => p.id !== 'limits').map((p) => [s.type, p.id] as const),
  );
  it.each(cases)('%s %s', (type, id) => {
    const kind = stageKind(type);
    const param = kind.params.find((p) => p.id === id)!;
    const start = { ...defaultsOf(kind), ...working[type] };
    const to = Math.abs(start[id]! - param.max) > Math.abs(start[id]! - param.min) ? param.max : param.min;
    const at = 24_000;
    const between = id === 'time' || to > 100 ? to : (start[id]! + to) / 2;
    const value = param.choices || param.step === 1 ? Math.round(to) : between;
    const { out } = runStage(k, type, working[type] ?? {}, [tone, tone.map((v) => v / 3)], {
      block: 500,
      before: (runner, from) => {
        if (from === at) runner.set({ ...start, [id]: value }, true);
      },
    });
    for (const ch of out) {
      const steady = Math.max(kink(ch, at - 8000, at), kink(ch, RATE - 8000, RATE));
      expect(kink(ch, at, at + 12_000)).toBeLessThan(2.5 * steady + 1e-3);
    }
  });
  it.each(STAGE_KINDS.map((s) => s.type))('%s switched off and on', (type) => {
    const values = { ...defaultsOf(stageKind(type)), ...working[type] };
    const { out } = runStage(k, type, values, [tone], {
      block: 500,
      before: (runner, from) => {
        if (from === 16_000) runner.set(values, false);
        if (from === 32_000) runner.set(values, true);
      },
    });
    const steady = Math.max(kink(out[0]!, 8000, 16_000), kink(out[0]!, 24_000, 32_000), kink(tone, 0, 8000));
    expect(kink(out[0]!, 16_000, 46_000)).toBeLessThan(2.5 * steady + 1e-3);
  });
});
