import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { foldDown, FRONT, layoutOf, LAYOUTS, loudnessWeights, placementGains, stereoPlacementGains, widthOf } from '.';

const k = newKernels();
const dB = (x: number) => 20 * Math.log10(x);
const surround = layoutOf('5.1');

describe('layouts', () => {
  it('have ITU-R BS.775 angles in 5.1 and its order L R C LFE Ls Rs', () => {
    expect(surround.speakers.map((s) => s.label).join(' ')).toBe('L R C LFE Ls Rs');
    expect(surround.speakers.map((s) => s.azimuth)).toEqual([30, -30, 0, 0, 110, -110]);
  });
  it('have as many mask bits as speakers (WAVE_FORMAT_EXTENSIBLE)', () => {
    for (const l of LAYOUTS.filter((l) => l.mask)) {
      expect(l.mask.toString(2).replace(/0/g, '').length, l.id).toBe(l.speakers.length);
    }
    expect(surround.mask).toBe(0x60f);
  });
  it('are counted as the names say', () => {
    expect(widthOf('7.1.4')).toBe(12);
    expect(widthOf('9.1.6')).toBe(16);
  });
  it('weigh surrounds 1.41 and leave the LFE out (ITU-R BS.1770-4)', () => {
    expect(loudnessWeights(surround)).toEqual([1, 1, 1, 0, 1.41, 1.41]);
    expect(loudnessWeights(layoutOf('7.1.4'))).toEqual([1, 1, 1, 0, 1, 1, 1.41, 1.41, 1, 1, 1, 1]);
  });
});

describe('placing a source', () => {
  const at = (azimuth: number, distance = 1) => placementGains(k, surround, { ...FRONT, azimuth, distance });
  it('is -3.01 dB in each of a pair in its middle (constant power)', () => {
    const g = at(15);
    expect(dB(g[0]!)).toBeCloseTo(-3.01, 2);
    expect(dB(g[2]!)).toBeCloseTo(-3.01, 2);
  });
  it.each([
    [30, 0],
    [-30, 1],
    [0, 2],
    [110, 4],
    [-110, 5],
  ])('at %i degrees only that speaker sounds', (azimuth, channel) => {
    at(azimuth).forEach((g, c) => expect(g).toBeCloseTo(c === channel ? 1 : 0, 9));
  });
  it('in the centre of the room feeds all alike', () => {
    const g = at(77, 0);
    for (const c of [0, 1, 2, 4, 5]) expect(g[c]).toBeCloseTo(1 / Math.sqrt(5), 9);
    expect(g[3]).toBe(0);
  });
  it('keeps its power wherever it stands', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LAYOUTS),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (layout, azimuth, distance) => {
          const g = placementGains(k, layout, { ...FRONT, azimuth, distance });
          expect(g.reduce((s, v) => s + v * v, 0)).toBeCloseTo(1, 6);
        },
      ),
    );
  });
  // Pulkki, J. Audio Eng. Soc. 45(6), 1997: gains from the inverse of the pair's base, solved here by the
  // tangent law, its equal for a symmetric pair.
  it('follows the tangent law between L and R of stereo', () => {
    for (const azimuth of [-25, -10, 5, 20]) {
      const [l, r] = placementGains(k, layoutOf('stereo'), { ...FRONT, azimuth }) as [number, number];
      const rad = Math.PI / 180;
      expect((l - r) / (l + r)).toBeCloseTo(Math.tan(azimuth * rad) / Math.tan(30 * rad), 6);
    }
  });
  it('behind two or three loudspeakers passes their middle, as in a mirror', () => {
    const of = (layout: 'stereo' | 'lcr', azimuth: number) =>
      placementGains(k, layoutOf(layout), { ...FRONT, azimuth }).map((g) => Math.round(g * 1e6) / 1e6);
    for (const layout of ['stereo', 'lcr'] as const) {
      for (const front of [0, 10, 30, -20])
        expect(of(layout, 180 - front), `${layout} ${front}`).toEqual(of(layout, front));
      expect(of(layout, 90)).toEqual(of(layout, 30));
      expect(of(layout, -100)).toEqual(of(layout, -30));
    }
  });
  it('in LCR stands between the two nearest, not between the outer ones', () => {
    for (let azimuth = 1; azimuth < 30; azimuth++) {
      const [l, r, c] = placementGains(k, layoutOf('lcr'), { ...FRONT, azimuth }) as [number, number, number];
      expect(r).toBe(0);
      expect(Math.min(l, c)).toBeGreaterThan(0);
    }
  });
  it('between two that face each other goes over at constant power, before and behind', () => {
    const faced = layoutOf('own/Faced/A,90,0;B,-90,0');
    const of = (azimuth: number) => placementGains(k, faced, { ...FRONT, azimuth });
    for (const middle of [0, 180]) of(middle).forEach((g) => expect(g).toBeCloseTo(Math.SQRT1_2, 9));
    expect(of(90)[0]).toBeCloseTo(1, 9);
    expect(of(-90)[1]).toBeCloseTo(1, 9);
  });
  it('sends the LFE its share', () => {
    expect(placementGains(k, surround, { ...FRONT, lfe: -10 })[3]).toBeCloseTo(Math.pow(10, -0.5), 6);
  });
  it('puts the sides of a stereo source half its width left and right', () => {
    const [l, r] = stereoPlacementGains(k, surround, FRONT) as [number[], number[]];
    expect(l[0]).toBeCloseTo(1, 9);
    expect(r[1]).toBeCloseTo(1, 9);
  });
});

describe('fold-down, ITU-R BS.775', () => {
  const h = Math.SQRT1_2;
  it('5.1 to stereo: Lo = L + 0.7071 C + 0.7071 Ls, LFE left out', () => {
    expect(foldDown(surround, layoutOf('stereo'))).toEqual([
      [1, 0],
      [0, 1],
      [h, h],
      [0, 0],
      [h, 0],
      [0, h],
    ]);
  });
  it('5.1 to mono: 0.7071 (L + R) + C + 0.5 (Ls + Rs)', () => {
    expect(foldDown(surround, layoutOf('mono')).flat()).toEqual([h, h, 1, 0, 0.5, 0.5]);
  });
  it('keeps equal layouts as they are', () => {
    for (const l of LAYOUTS) foldDown(l, l).forEach((row, i) => row.forEach((g, j) => expect(g).toBe(i === j ? 1 : 0)));
  });
  it('puts mono into the centre, stereo into L and R of a wider mix', () => {
    expect(foldDown(layoutOf('mono'), surround)).toEqual([[0, 0, 1, 0, 0, 0]]);
    expect(foldDown(layoutOf('stereo'), surround)[0]).toEqual([1, 0, 0, 0, 0, 0]);
  });
  it('loses no channel but the LFE on the way to stereo', () => {
    for (const l of LAYOUTS) {
      foldDown(l, layoutOf('stereo')).forEach((row, i) =>
        expect(
          row.some((g) => g > 0),
          `${l.id} ${i}`,
        ).toBe(!l.speakers[i]!.lfe),
      );
    }
  });
});
