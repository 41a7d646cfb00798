import { describe, expect, it } from 'vitest';
import { PixelPainter, rgbOf } from './painter';

const W = 8;
const H = 6;
function surface(ratio = 1) {
  const bytes = new Uint8ClampedArray(W * H * 4);
  const painter = new PixelPainter(bytes, W, H, ratio, (c) => c);
  const at = (x: number, y: number) => [...bytes.subarray((y * W + x) * 4, (y * W + x) * 4 + 4)];
  painter.clear('#102030');
  return {
    painter,
    at,
    count: (colour: number[]) => {
      let n = 0;
      for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) if (at(x, y).join() === colour.join()) n++;
      return n;
    },
  };
}
const GROUND = [16, 32, 48, 255];
const RED = [255, 0, 0, 255];

describe('drawing into pixels', () => {
  it('reads colours', () => {
    expect(rgbOf('#e2b44a')).toEqual([226, 180, 74]);
  });
  it('fills areas, cut at the edges', () => {
    const { painter, at, count } = surface();
    painter.fill('#ff0000', 2, 1, 3, 2);
    expect([at(2, 1), at(4, 2), at(5, 1), at(2, 3)]).toEqual([RED, RED, GROUND, GROUND]);
    painter.fill('#ff0000', -5, -5, 100, 100);
    expect(count(RED)).toBe(W * H);
    painter.fill('#00ff00', 20, 20, 5, 5);
    expect(count(RED)).toBe(W * H);
  });
  it('never loses what is thinner than a pixel', () => {
    const { painter, count } = surface();
    painter.fill('#ff0000', 1, 2.2, 1, 0.1);
    expect(count(RED)).toBe(1);
  });
  it('lays a share of a colour over what is there', () => {
    const { painter, at } = surface();
    painter.fill('#ff0000', 0, 0, W, H, 0.25);
    expect(at(3, 3)).toEqual([Math.round(16 * 0.75 + 255 * 0.25), 24, 36, 255]);
  });
  it('frames and lines', () => {
    const { painter, at, count } = surface();
    painter.frame('#ff0000', 1, 1, 5, 4);
    expect(count(RED)).toBe(2 * 5 + 2 * 2);
    expect(at(3, 2)).toEqual(GROUND);
    const other = surface();
    other.painter.line('#ff0000', 0, 0, 5, 5);
    expect(Array.from({ length: 6 }, (_, i) => other.at(i, i))).toEqual(Array(6).fill(RED));
  });
  it('counts in CSS pixels on finer screens', () => {
    const { painter, count } = surface(2);
    painter.fill('#ff0000', 1, 1, 2, 1);
    expect(count(RED)).toBe(8);
  });
});
