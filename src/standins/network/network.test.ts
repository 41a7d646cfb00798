// The stream over two links. What the receiver does with two copies: SMPTE ST 2022-7; packets of 48: AES67.
import { describe, expect, it } from 'vitest';
import { secondsToClick } from '@/core/checks';
import { DEPTH, NetworkStream, PACKET_FRAMES } from '.';

const RATE = 48_000;

/** A stream of counted frames (channel 1 negated) read in blocks; `at` is called before each block. */
function run(seconds: number, at: (frame: number, stream: NetworkStream) => void, ppm = 0, block = 128) {
  let count = 0;
  const stream = new NetworkStream(
    2,
    ([a, b]) => {
      for (let i = 0; i < PACKET_FRAMES; i++) {
        count++;
        a![i] = count;
        b![i] = -count;
      }
    },
    ppm,
  );
  const heard = [new Float32Array(seconds * RATE), new Float32Array(seconds * RATE)];
  for (let frame = 0; frame + block <= seconds * RATE; frame += block) {
    at(frame, stream);
    stream.run(
      heard.map((h) => h.subarray(frame, frame + block)),
      block,
    );
  }
  return { heard, stream };
}

/** Frames at which the count does not go on by one, once it has begun. */
function breaks(samples: Float32Array): number[] {
  const found: number[] = [];
  const first = samples.findIndex((v) => v !== 0);
  for (let i = first + 1; i < samples.length && !(samples[i] === 0 && i > samples.length - 1024); i++)
    if (samples[i] !== samples[i - 1]! + 1) found.push(i);
  return found;
}

describe('a stream over two links', () => {
  it('gives every sample once and in order, on all channels', () => {
    const { heard, stream } = run(4, () => {});
    expect(breaks(heard[0]!)).toEqual([]);
    expect(heard[1]!.every((v, i) => v === -heard[0]![i]!)).toBe(true);
    expect(stream.receiver).toMatchObject({ lost: 0, slips: 0 });
  });
  it.each([
    ['first', 0],
    ['second', 1],
  ])('loses no sample when the %s link is cut, and none when it comes back', (_name, link) => {
    const { heard, stream } = run(4, (frame, s) => {
      if (frame === 64_000) s.links[link]!.cut();
      if (frame === 128_000) s.links[link]!.mend();
    });
    expect(breaks(heard[0]!)).toEqual([]);
    expect(stream.receiver).toMatchObject({ lost: 0, slips: 0 });
    expect(stream.status().links).toEqual([{ up: true }, { up: true }]);
  });
  it('survives cuts of the two links in turn', () => {
    const { heard } = run(4, (frame, s) => {
      if (frame === 48_000) s.links[0].cut();
      if (frame === 64_000) s.links[0].mend();
      if (frame === 80_000) s.links[1].cut();
      if (frame === 96_000) s.links[1].mend();
    });
    expect(breaks(heard[0]!)).toEqual([]);
  });
  it('is silent while both are cut, counts what is lost, and goes on at its place afterwards', () => {
    const { heard, stream } = run(4, (frame, s) => {
      if (frame === 64_000) s.links.forEach((l) => l.cut());
      if (frame === 96_000) s.links.forEach((l) => l.mend());
    });
    const silent = heard[0]!.slice(64_000 + 2 * DEPTH, 96_000);
    expect(silent.every((v) => v === 0)).toBe(true);
    expect(stream.receiver.lost).toBeGreaterThan(31_000);
    // Two breaks only: into silence and out of it; what follows stands where it would have stood.
    const { heard: whole } = run(4, () => {});
    expect(heard[0]!.slice(100_000, 190_000)).toEqual(whole[0]!.slice(100_000, 190_000));
  });
});

describe('the clock', () => {
  it('that follows the network neither drifts nor clicks', () => {
    const { stream } = run(20, () => {}, 40);
    expect(stream.status().ppm).toBeCloseTo(0, 1);
    expect(stream.receiver.slips).toBe(0);
  });
  it.each([40, -40, 3])('of its own, %d ppm fast, is measured before the first click', (ppm) => {
    const { stream } = run(3, (frame, s) => frame === 0 && s.setClock('own'), ppm);
    expect(stream.receiver.slips).toBe(0);
    expect(Math.abs(stream.status().ppm! - ppm)).toBeLessThan(1);
  });
  it('is measured rightly while a link is cut and mended', () => {
    const { stream } = run(
      5,
      (frame, s) => {
        if (frame === 0) s.setClock('own');
        if (frame === 96_000) s.links[0].cut();
      },
      40,
    );
    expect(Math.abs(stream.status().ppm! - 40)).toBeLessThan(1);
  });
  it.each([2000, -2000])('%d ppm fast clicks about when it was told', (ppm) => {
    let told: number | null = null;
    let clicked: number | null = null;
    run(
      12,
      (frame, s) => {
        if (frame === 0) s.setClock('own');
        const status = s.status();
        if (told === null && status.ppm !== null && frame > RATE)
          told = frame / RATE + secondsToClick(status.margin, status.ppm, RATE);
        if (clicked === null && status.slips > 0) clicked = frame / RATE;
      },
      ppm,
    );
    expect(clicked).not.toBeNull();
    expect(Math.abs(clicked! - told!)).toBeLessThan(2);
  });
});
