// Stems that are limited together, printed, added up by sox and measured by ffmpeg: their sum stays under the ceiling.
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { newSession, type EditJson } from '@/core/session';
import { newKernels, noise } from '../support/kernels';
import { printed, readerOf } from '../support/printed';
import { applied, FORMAT } from '../support/session';
import { both, folder, run } from './tools';

const k = newKernels();
const FRAMES = 96_000;
const STEMS = ['dia', 'nar', 'efx'];
const CEILING = -3;

/** Tones and noise that reach their tops together now and then. */
const sounds = Object.fromEntries(
  STEMS.map((s, i) => {
    const hiss = noise(FRAMES, 0.15, 40 + i);
    const tone = (n: number) => 0.7 * Math.sin(n * 0.031 * (i + 1)) * (Math.floor(n / 11_000) % 2 ? 1 : 0.1);
    return [s, [Float32Array.from(hiss, (v, n) => v + tone(n))]];
  }),
);

const session = (peaks: 'sample' | 'true') =>
  applied(
    newSession('Linked', 'LI', { ...FORMAT, layout: 'stereo' }),
    ...STEMS.flatMap((bus): EditJson[] => [
      { type: 'addTrack', id: `t-${bus}`, name: bus, layout: 'mono', destination: bus },
      {
        type: 'addClip',
        id: `c-${bus}`,
        track: `t-${bus}`,
        start: 0,
        media: { id: bus, name: `${bus}.wav`, channels: 1, frames: FRAMES, sampleRate: 48_000, kind: 'file' },
      },
    ]),
    { type: 'removeBus', bus: 'mus' },
    { type: 'removeBus', bus: 'amb' },
    // One stem is pushed up by 12 dB.
    { type: 'setBus', bus: 'efx', level: 12 },
    { type: 'setReference', bus: 'ref', linked: { on: true, ceiling: CEILING, release: 80, peaks } },
  );

/** Peak of a file as ffmpeg measures it: dBFS (astats) or dBTP (ebur128, BS.1770-4 annex 2). */
function peakOf(file: string, peaks: 'sample' | 'true'): number {
  const filter = peaks === 'true' ? 'ebur128=peak=true' : 'astats=measure_perchannel=none';
  const text = both('ffmpeg', '-hide_banner', '-nostats', '-i', file, '-af', filter, '-f', 'null', '-');
  const found =
    peaks === 'true' ? /True peak:\s+Peak:\s+(-?[\d.]+)/.exec(text) : /Peak level dB:\s*(-?[\d.]+)/.exec(text);
  return Number(found![1]);
}

describe.each(['sample', 'true'] as const)('linked limiting of %s peaks', (peaks) => {
  it('holds the sum of the printed files under its ceiling, and it is the printed reference', async () => {
    const dir = folder();
    const files = await printed(k, session(peaks), readerOf(sounds), { end: FRAMES });
    const file = (bus: string) => path.join(dir, `${bus}.wav`);
    for (const bus of [...STEMS, 'ref']) writeFileSync(file(bus), files.bytes.get(`print-${bus}`)!);
    const sum = path.join(dir, 'sum.wav');
    run('sox', '-m', ...STEMS.flatMap((s) => ['-v', '1', file(s)]), '-e', 'floating-point', '-b', '32', sum);
    const top = peakOf(sum, peaks);
    expect(top).toBeLessThanOrEqual(CEILING + 1e-4);
    // It does reach for the ceiling, and the stems alone, unlimited, would be far over it.
    expect(top).toBeGreaterThan(CEILING - (peaks === 'true' ? 0.5 : 0.1));
    const rest = path.join(dir, 'rest.wav');
    run('sox', '-m', '-v', '1', sum, '-v', '-1', file('ref'), '-e', 'floating-point', '-b', '32', rest);
    // Three stems and the reference, half a step of 24 bits each.
    expect(peakOf(rest, 'sample')).toBeLessThan(20 * Math.log10(4 * 2 ** -24) + 0.1);
  });
});
