// Fades and crossfades as they are heard, against a plain computation in f64.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import { ChannelSet } from '@/core/kernels';
import type { FadeCurve, SessionDoc } from '@/core/session';
import { itemsIn, layItem } from '.';

const k = newKernels();
const LAWS: Record<FadeCurve, (p: number) => number> = {
  even: (p) => p,
  power: (p) => Math.sin((Math.PI / 2) * p),
  smooth: (p) => 0.5 - 0.5 * Math.cos(Math.PI * p),
};
const files: Record<string, Float32Array> = { one: noise(20_000, 0.9, 3), two: noise(20_000, 0.9, 8) };

/** The track's samples in [0, frames), computed in spans of `size`. */
function heard(doc: SessionDoc, frames: number, size: number, sounds = files): Float32Array {
  const out = new Float32Array(frames);
  const span = new ChannelSet(k, 1, size);
  const scratch = k.x.alloc(size * 4);
  for (let at = 0; at < frames; at += size) {
    span.clear(size);
    for (const item of itemsIn(doc.tracks[0]!, at, size))
      layItem(k, span, scratch, item, [sounds[item.media]!.subarray(item.from, item.from + item.frames)]);
    out.set(span.view(0, Math.min(size, frames - at)), at);
  }
  span.free();
  k.x.release(scratch);
  return out;
}

const one = sessionWith(monoTrack('a'), { type: 'addClip', id: 'c', track: 'a', start: 0, media: mono('one', 20_000) });

describe('a fade', () => {
  it.each(['even', 'power', 'smooth'] as const)('%s follows its law at both ends, to f32', (curve) => {
    const doc = applied(one, {
      type: 'shapeClip',
      clip: 'c',
      fadeIn: { frames: 1001, curve },
      fadeOut: { frames: 700, curve },
    });
    const out = heard(doc, 20_000, 20_000);
    const law = LAWS[curve];
    for (const i of [0, 1, 500, 1000, 1001, 5000, 19_299, 19_300, 19_800, 19_999]) {
      const up = i < 1001 ? law((i + 0.5) / 1001) : 1;
      const down = i >= 19_300 ? law(1 - (i - 19_300 + 0.5) / 700) : 1;
      expect(out[i]).toBeCloseTo(files.one![i]! * up * down, 6);
    }
  });
  it('is the same to the bit for any size of span', () => {
    const doc = applied(one, { type: 'shapeClip', clip: 'c', fadeIn: { frames: 5000, curve: 'power' } });
    const whole = heard(doc, 20_000, 20_000);
    for (const size of [64, 128, 500, 4096]) expect(heard(doc, 20_000, size)).toEqual(whole);
  });
  it('a muted clip is silent', () => {
    expect(heard(applied(one, { type: 'shapeClip', clip: 'c', muted: true }), 20_000, 4096).every((v) => v === 0)).toBe(
      true,
    );
  });
});

describe('a joint', () => {
  // Two files that meet at 10 000, each with sound beyond the joint.
  const cut = applied(
    sessionWith(monoTrack('a'), { type: 'addClip', id: 'l', track: 'a', start: 0, media: mono('one', 20_000) }),
    { type: 'addClip', id: 'r', track: 'a', start: 5_000, media: mono('two', 20_000) },
    { type: 'trimClip', clip: 'r', start: 10_000, length: 15_000 },
    { type: 'trimClip', clip: 'l', start: 0, length: 10_000 },
  );
  const joined = (curve: FadeCurve, frames = 480) =>
    applied(cut, { type: 'shapeClip', clip: 'r', joint: { frames, curve } });

  it('without a crossfade is a straight cut', () => {
    const out = heard(cut, 20_000, 4096);
    expect(out[9_999]).toBe(files.one![9_999]);
    expect(out[10_000]).toBe(files.two![5_000]);
  });
  it.each(['even', 'power'] as const)('%s mixes both files around the cut, half on either side', (curve) => {
    const out = heard(joined(curve), 20_000, 4096);
    expect(out[9_759]).toBe(files.one![9_759]);
    expect(out[10_240]).toBe(files.two![5_240]);
    for (const i of [9_760, 9_900, 10_000, 10_100, 10_239]) {
      const p = (i - 9_760 + 0.5) / 480;
      const wanted = files.one![i]! * LAWS[curve](1 - p) + files.two![i - 5_000]! * LAWS[curve](p);
      expect(out[i]).toBeCloseTo(wanted, 6);
    }
  });
  it('of equal gain leaves a sound that goes on as it was', () => {
    // The right file is the left one, so the joint lies within one sound.
    const same = { one: files.one!, two: new Float32Array(20_000) };
    same.two.set(files.one!.subarray(5_000, 20_000));
    const out = heard(joined('even'), 15_000, 500, same);
    for (let i = 0; i < 15_000; i++) expect(Math.abs(out[i]! - files.one![i]!)).toBeLessThan(1e-6);
  });
  it('of equal power keeps the power of unrelated sounds, of equal gain loses 3 dB in the middle', () => {
    const middle = (curve: FadeCurve) => {
      const out = heard(joined(curve, 8_000), 20_000, 4096).subarray(9_900, 10_100);
      return 10 * Math.log10(out.reduce((s, v) => s + v * v, 0) / out.length / ((0.9 * 0.9) / 3));
    };
    expect(Math.abs(middle('power'))).toBeLessThan(0.8);
    expect(middle('even')).toBeLessThan(-2.2);
  });
  it('takes a law by how alike the pieces are', async () => {
    const { jointCurve } = await import('@/core/session');
    expect([jointCurve(0.95), jointCurve(0.1), jointCurve(-0.3)]).toEqual(['even', 'power', 'power']);
  });
  it('is the same to the bit for any size of span', () => {
    const whole = heard(joined('power', 961), 20_000, 20_000);
    for (const size of [64, 128, 500, 4096]) expect(heard(joined('power', 961), 20_000, size)).toEqual(whole);
  });
});
