import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  CHANNEL_ORDERS,
  foldDown,
  ITU_FOLD,
  labelsIn,
  labelsOfMask,
  layoutOf,
  layoutOfMask,
  LAYOUTS,
  orderOfLabels,
  reorder,
  reordering,
} from '.';

const surround = layoutOf('5.1');

describe('channel orders', () => {
  // ITU-R BS.775 / SMPTE 320M / WAV masks; film and pairs-first order are common practice, with no source.
  it('of 5.1 are the three in use', () => {
    expect(labelsIn(surround, 'wav').join(' ')).toBe('L R C LFE Ls Rs');
    expect(labelsIn(surround, 'film').join(' ')).toBe('L C R Ls Rs LFE');
    expect(labelsIn(surround, 'pairs').join(' ')).toBe('L R Ls Rs C LFE');
    expect(labelsIn(layoutOf('7.1'), 'film').join(' ')).toBe('L C R Lss Rss Lrs Rrs LFE');
  });
  it('takes no channel to a wrong place, between any two orders of any layout', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LAYOUTS),
        fc.constantFrom(...CHANNEL_ORDERS),
        fc.constantFrom(...CHANNEL_ORDERS),
        (layout, from, to) => {
          const there = reordering(layout, from.id, to.id);
          expect([...there].sort((a, b) => a - b)).toEqual(layout.speakers.map((_, i) => i));
          expect(reorder(labelsIn(layout, from.id), there)).toEqual(labelsIn(layout, to.id));
          const back = reordering(layout, to.id, from.id);
          expect(reorder(reorder(labelsIn(layout, from.id), there), back)).toEqual(labelsIn(layout, from.id));
        },
      ),
    );
  });
  it('are recognised by track names', () => {
    expect(orderOfLabels(surround, ['L', 'C', 'R', 'Ls', 'Rs', 'LFE'])).toBe('film');
    expect(orderOfLabels(surround, ['L', 'C', 'R'])).toBeNull();
    expect(orderOfLabels(surround, ['R', 'L', 'C', 'LFE', 'Ls', 'Rs'])).toBeNull();
  });
});

describe('channel masks, WAVE_FORMAT_EXTENSIBLE', () => {
  it('name the channels of every layout that has one, in its order', () => {
    for (const l of LAYOUTS.filter((o) => o.mask && o.id !== 'mono')) {
      const named = labelsOfMask(l.mask).map((m) =>
        // Rears of 5.x layouts and quad are called by side here, heights stand where they stand.
        l.speakers.length < 7 || l.id.startsWith('5.1.') ? m.replace('rs', 's').replace('ss', 's') : m,
      );
      expect(named.join(' '), l.id).toBe(l.speakers.map((s) => s.label).join(' '));
    }
  });
  it('0x3F and 0x60F are the same 5.1', () => {
    expect(layoutOfMask(6, 0x3f)?.id).toBe('5.1');
    expect(layoutOfMask(6, 0x60f)?.id).toBe('5.1');
    expect(layoutOfMask(6, 0)?.id).toBe('5.1');
    expect(layoutOfMask(12, 0x2d63f)?.id).toBe('7.1.4');
    expect(layoutOfMask(9, 0)).toBeNull();
  });
});

describe('fold-down with options', () => {
  const h = Math.SQRT1_2;
  it('LFE and centre at chosen levels', () => {
    const rows = foldDown(surround, layoutOf('stereo'), { centre: 0.5, surround: 0.5, lfe: 0.25 });
    expect(rows).toEqual([
      [1, 0],
      [0, 1],
      [0.5, 0.5],
      [0.25, 0.25],
      [0.5, 0],
      [0, 0.5],
    ]);
  });
  it('7.1 to 5.1: both surrounds of a side into one (common practice, no source)', () => {
    const rows = foldDown(layoutOf('7.1'), surround);
    for (const i of [4, 6]) expect(rows[i]).toEqual([0, 0, 0, 0, 1, 0]);
    for (const i of [5, 7]) expect(rows[i]).toEqual([0, 0, 0, 0, 0, 1]);
  });
  it('heights meet heights first, then come down by 3 dB', () => {
    const to512 = foldDown(layoutOf('7.1.4'), layoutOf('5.1.2'));
    expect(to512[8]).toEqual([0, 0, 0, 0, 0, 0, 1, 0]);
    const to51 = foldDown(layoutOf('7.1.4'), surround);
    expect(to51[8]).toEqual([h, 0, 0, 0, 0, 0]);
    expect(to51[10]).toEqual([0, 0, 0, 0, h, 0]);
  });
  it('between any two layouts no channel but the LFE is lost, and left stays left', () => {
    for (const from of LAYOUTS)
      for (const to of LAYOUTS)
        foldDown(from, to, ITU_FOLD).forEach((row, i) => {
          const s = from.speakers[i]!;
          expect(row).toHaveLength(to.speakers.length);
          if (s.lfe) return;
          expect(
            row.some((g) => g > 0),
            `${from.id} to ${to.id}: ${s.label}`,
          ).toBe(true);
          row.forEach((g, c) => {
            if (g > 0 && s.azimuth !== 0) expect(to.speakers[c]!.azimuth * s.azimuth).toBeGreaterThanOrEqual(0);
          });
        });
  });
});
