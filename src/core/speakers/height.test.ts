// Panning with height, spread, layouts of one's own.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import {
  ownLayout,
  direction,
  foldDown,
  FRONT,
  heightGains,
  isLayout,
  ituLabel,
  layoutOf,
  LAYOUTS,
  placementGains,
} from '.';

const k = newKernels();
const full = layoutOf('7.1.4');
const tall = LAYOUTS.filter((l) => l.speakers.some((s) => s.elevation > 0));
const power = (g: number[]) => g.reduce((s, v) => s + v * v, 0);
const dB = (v: number) => 20 * Math.log10(v);

describe('vector base amplitude panning with height (Pulkki, J. Audio Eng. Soc. 45(6), 1997)', () => {
  it('feeds one speaker alone where it stands', () => {
    for (const layout of tall)
      layout.speakers.forEach((s, c) => {
        if (s.lfe) return;
        heightGains(layout, s.azimuth, s.elevation).forEach((g, i) =>
          expect(g, `${layout.id} ${s.label}`).toBeCloseTo(i === c ? 1 : 0, 6),
        );
      });
  });
  it('solves the base of the triangle it stands in: gains times directions point at the source', () => {
    // Inside the triangle C, Ltf, Rtf of 7.1.4 no helper takes part.
    for (const [azimuth, elevation] of [
      [0, 20],
      [10, 30],
      [-15, 25],
    ] as const) {
      const g = heightGains(full, azimuth, elevation);
      const sum = [0, 1, 2].map((axis) =>
        full.speakers.reduce((t, s, i) => t + g[i]! * direction(s.azimuth, s.elevation)[axis]!, 0),
      );
      const length = Math.hypot(...sum);
      direction(azimuth, elevation).forEach((v, axis) => expect(sum[axis]! / length).toBeCloseTo(v, 6));
    }
  });
  it('straight above all four heights sound alike', () => {
    const g = heightGains(full, 0, 90);
    for (const label of ['Ltf', 'Rtf', 'Ltr', 'Rtr'])
      expect(dB(g[full.speakers.findIndex((s) => s.label === label)]!)).toBeCloseTo(-6.02, 2);
    expect(power(g)).toBeCloseTo(1, 9);
  });
  it('keeps its power everywhere, and left and right alike', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...tall),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: -90, max: 90, noNaN: true }),
        (layout, azimuth, elevation) => {
          const g = placementGains(k, layout, { ...FRONT, azimuth, elevation });
          expect(power(g)).toBeCloseTo(1, 6);
          expect(Math.min(...g)).toBeGreaterThanOrEqual(0);
          const mirrored = placementGains(k, layout, { ...FRONT, azimuth: -azimuth, elevation });
          layout.speakers.forEach((s, i) => {
            const other = layout.speakers.findIndex(
              (o) => o.azimuth === -s.azimuth && o.elevation === s.elevation && o.lfe === s.lfe,
            );
            expect(mirrored[other]!).toBeCloseTo(g[i]!, 5);
          });
        },
      ),
    );
  });
  it('moves without a jump from ear height upwards', () => {
    for (const layout of tall)
      for (let azimuth = -180; azimuth < 180; azimuth += 7) {
        const low = placementGains(k, layout, { ...FRONT, azimuth, elevation: 0 });
        const above = placementGains(k, layout, { ...FRONT, azimuth, elevation: 0.05 });
        low.forEach((g, i) => expect(Math.abs(g - above[i]!), `${layout.id} ${azimuth}`).toBeLessThan(0.05));
      }
  });
  it('in the centre of the room every speaker but the LFE sounds alike, in every layout', () => {
    for (const layout of LAYOUTS) {
      const count = layout.speakers.filter((s) => !s.lfe).length;
      placementGains(k, layout, { ...FRONT, azimuth: 50, distance: 0 }).forEach((g, i) =>
        expect(g).toBeCloseTo(layout.speakers[i]!.lfe ? 0 : 1 / Math.sqrt(count), 9),
      );
    }
  });
  it('a layout without height ignores it', () => {
    const flat = layoutOf('5.1');
    expect(placementGains(k, flat, { ...FRONT, azimuth: 20, elevation: 40 })).toEqual(
      placementGains(k, flat, { ...FRONT, azimuth: 20 }),
    );
  });
});

describe('spread', () => {
  it('grows from one speaker to many at the same power', () => {
    const active = (spread: number) => placementGains(k, full, { ...FRONT, spread }).filter((g) => g > 0.05).length;
    expect(active(0)).toBe(1);
    expect(active(60)).toBe(3);
    expect(active(180)).toBeGreaterThanOrEqual(5);
    expect(power(placementGains(k, full, { ...FRONT, azimuth: 77, spread: 90 }))).toBeCloseTo(1, 9);
  });
  it('is alike on both sides of its direction', () => {
    const g = placementGains(k, full, { ...FRONT, spread: 120 });
    expect(g[0]).toBeCloseTo(g[1]!, 9);
  });
});

describe('a layout of one’s own', () => {
  const spots = [
    { label: 'L', azimuth: 30, elevation: 0 },
    { label: 'R', azimuth: -30, elevation: 0 },
    { label: 'LFE', azimuth: 0, elevation: -30 },
    { label: 'Zenith', azimuth: 0, elevation: 90 },
  ];
  it('pans, weighs and names itself as ITU-R BS.2051 does', () => {
    const own = ownLayout('Dome', spots);
    expect(own.speakers.map((s) => s.itu)).toEqual(['M+030', 'M-030', 'LFE1', 'T+000']);
    expect(ituLabel(-110, 30)).toBe('U-110');
    expect(placementGains(k, own, { ...FRONT, azimuth: 0, elevation: 90 })[3]).toBeCloseTo(1, 9);
    expect(power(placementGains(k, own, { ...FRONT, azimuth: 180 }))).toBeCloseTo(1, 9);
  });
  it('takes and gives beds: nothing but the LFE is lost, whatever its speakers are called', () => {
    const dome = ownLayout('Dome', spots);
    const ring = ownLayout('Ring', [
      { label: 'A', azimuth: 45, elevation: 0 },
      { label: 'B', azimuth: -45, elevation: 0 },
      { label: 'D', azimuth: 180, elevation: 0 },
    ]);
    for (const own of [dome, ring])
      for (const other of LAYOUTS)
        for (const [from, to] of [
          [own, other],
          [other, own],
        ] as const)
          foldDown(from, to).forEach((row, i) => {
            if (!from.speakers[i]!.lfe)
              expect(power(row), `${from.name} ${from.speakers[i]!.label} in ${to.name}`).toBeGreaterThan(0.1);
          });
    // Straight behind: both sides alike.
    const [l, r] = foldDown(ring, layoutOf('stereo'))[2]!;
    expect(l).toBeCloseTo(0.5, 9);
    expect(r).toBeCloseTo(0.5, 9);
  });
  it('is held by its id, in one form', () => {
    const own = ownLayout('Dome 3', spots);
    expect(own).toMatchObject({ code: 'DOME3', mask: 0 });
    expect(layoutOf(own.id)).toEqual(own);
    expect(layoutOf(own.id)).toBe(layoutOf(own.id));
    for (const bad of [
      'own/',
      'own/Dome',
      'own/Dome/',
      own.id.replace(',30,', ',30.0,'),
      own.id.replace(',90', ',900'),
    ])
      expect(isLayout(bad), bad).toBe(false);
  });
  it.each([
    [[...spots, { label: 'L', azimuth: 90, elevation: 0 }], /two speakers are called L/],
    [[...spots, { label: 'X', azimuth: 30, elevation: 0 }], /L and X stand in the same place/],
    [[...spots, { label: '', azimuth: 10, elevation: 0 }], /"" cannot name a speaker/],
    [[{ label: 'A', azimuth: 200, elevation: 0 }], /A: azimuth goes from -180 to 180/],
    [[{ label: 'A', azimuth: 0, elevation: NaN }], /A: elevation/],
    [[], /1 to 32 speakers/],
    [[{ label: 'LFE', azimuth: 0, elevation: 0 }], /a speaker beside the LFE/],
  ])('is refused when it contradicts itself', (bad, message) => {
    expect(() => ownLayout('Own', bad)).toThrow(message);
  });
});
