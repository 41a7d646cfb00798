import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith, take } from '../../../tests/support/session';
import { laneValue, type LanePoint } from '@/core/lanes';
import type { SessionDoc } from './document';
import type { EditJson } from './edits';
import {
  CLICK_LANE,
  clearEdit,
  copyOf,
  fadeOutEdits,
  laneChoices,
  laneName,
  laneStep,
  pasteEdit,
  pointEdit,
  scaleEdit,
  valueAt,
} from './laneEdits';
import { laneKey } from './lanes';

const RATE = 48_000;
const level = { node: 'a', param: 'level' };
const line = (...points: [number, number][]): LanePoint[] =>
  points.map(([at, value]) => ({ at, value, shape: 'line' }));
const start = (...edits: EditJson[]): SessionDoc => sessionWith(monoTrack('a', 'Ann'), ...edits);
const withLane = (points: LanePoint[]): SessionDoc =>
  start({ type: 'writeLane', target: level, from: 0, to: points.at(-1)!.at, points });
const pointsOf = (doc: SessionDoc) => doc.lanes[laneKey(level)]?.points ?? [];

describe('what can follow the timeline', () => {
  it('is listed by name, and each of it takes a lane', () => {
    const doc = start(
      { type: 'addBus', kind: 'return', id: 'r', name: 'Air', sources: ['a'] },
      { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'c', stage: 'compressor' },
    );
    const choices = laneChoices(doc, doc.tracks[0]!);
    const names = choices.map((c) => c.name);
    expect(names).toEqual(expect.arrayContaining(['Level', 'Mute', 'Azimuth', 'Send to Air', 'Compressor Threshold']));
    for (const { target, param } of [...choices, CLICK_LANE]) {
      const point: LanePoint = { at: 0, value: param.default, shape: param.choices ? 'step' : 'line' };
      expect(Object.keys(applied(doc, pointEdit(target, point)).lanes), param.label).toEqual([laneKey(target)]);
      expect(valueAt(doc, target, 0), param.label).toBeTypeOf('number');
    }
    expect(laneName(doc, choices.find((c) => c.name === 'Send to Air')!.target)).toBe('Ann, Send to Air');
  });
});

describe('a lane that is edited', () => {
  const doc = withLane(line([0, -10], [RATE, -4], [3 * RATE, -4], [4 * RATE, 0]));

  it('gets a point, and loses those of a stretch', () => {
    const more = applied(doc, pointEdit(level, { at: 2 * RATE, value: -1, shape: 'step' }));
    expect(pointsOf(more).map((p) => p.at / RATE)).toEqual([0, 1, 2, 3, 4]);
    const fewer = applied(more, clearEdit(level, RATE, 3 * RATE));
    expect(pointsOf(fewer).map((p) => p.at / RATE)).toEqual([0, 4]);
    expect(applied(doc, clearEdit(level, 0, 9 * RATE)).lanes).toEqual({});
  });

  it('is changed by so much in a stretch alone', () => {
    const [from, to] = [RATE / 2, 2 * RATE];
    const next = applied(doc, scaleEdit(doc, level, from, to, -3));
    const both = (at: number) => [laneValue(pointsOf(doc), at), laneValue(pointsOf(next), at)];
    for (const at of [from, RATE, 1.5 * RATE, to]) {
      const [before, after] = both(at);
      expect(after).toBeCloseTo(before! - 3, 3);
    }
    for (const at of [0, from - 0.02 * RATE, to + 0.02 * RATE, 3.5 * RATE, 9 * RATE]) {
      const [before, after] = both(at);
      expect(after).toBeCloseTo(before!, 3);
    }
  });

  it('is refused where it would go beyond its limits', () => {
    expect(() => applied(doc, scaleEdit(doc, level, 0, RATE, 40))).toThrow(/Level goes from -100 to 24 dB/);
  });

  it('is copied to another place as it was', () => {
    const copied = copyOf(doc, level, RATE / 2, 1.5 * RATE);
    const next = applied(doc, pasteEdit(level, copied, 6 * RATE));
    for (const at of [0, 0.25, 0.5, 0.75, 1])
      expect(laneValue(pointsOf(next), (6 + at) * RATE)).toBeCloseTo(laneValue(pointsOf(doc), (0.5 + at) * RATE), 6);
  });

  it('takes values on steps within their limits', () => {
    const [{ param }] = laneChoices(doc, doc.tracks[0]!) as [ReturnType<typeof laneChoices>[number]];
    expect([laneStep(param, -3.14159), laneStep(param, 99), laneStep(param, -200)]).toEqual([-3.1, 24, -100]);
  });
});

describe('clips that are moved', () => {
  const doc = applied(
    withLane(line([0, 0], [2 * RATE, -6], [3 * RATE, -12], [5 * RATE, 0], [8 * RATE, 3])),
    take('t1', 'a', 2 * RATE, 2 * RATE),
  );
  const [clip] = doc.tracks[0]!.clips;
  const moved = (lanes: boolean) =>
    pointsOf(applied(doc, { type: 'moveClips', clips: [clip!.id], by: 3 * RATE, lanes })).map((p) => [
      p.at / RATE,
      p.value,
    ]);

  it('take the points that stand on them along', () => {
    expect(moved(true)).toEqual([
      [0, 0],
      [5, -6],
      [6, -12],
      [8, 3],
    ]);
  });

  it('leave them where they are when that is wanted', () => {
    expect(moved(false)).toEqual(pointsOf(doc).map((p) => [p.at / RATE, p.value]));
  });
});

describe('a fade at the end', () => {
  it('brings every stem to silence at the end of the range, by a quarter of a cosine', () => {
    const doc = start({ type: 'setRange', start: 0, end: 60 * RATE }, { type: 'setBus', bus: 'mus', level: -2 });
    const edits = fadeOutEdits(doc, 4);
    expect(edits).toHaveLength(doc.buses.filter((b) => b.kind === 'stem').length);
    const next = applied(doc, ...edits);
    for (const [bus, base] of [
      ['dia', 0],
      ['mus', -2],
    ] as const) {
      const { points } = next.lanes[laneKey({ node: bus, param: 'level' })]!;
      expect(points[0]).toMatchObject({ at: 56 * RATE, value: base });
      expect(points.at(-1)).toMatchObject({ at: 60 * RATE, value: -100 });
      for (const x of [0.1, 0.3, 0.5, 0.8, 0.95]) {
        const wanted = base + 20 * Math.log10(Math.cos((Math.PI / 2) * x));
        expect(Math.abs(laneValue(points, (56 + 4 * x) * RATE) - wanted)).toBeLessThan(0.2);
      }
      expect(points.length).toBeLessThan(40);
    }
    expect(next.lanes[laneKey({ node: 'ref', param: 'level' })]).toBeUndefined();
  });

  it('is not longer than the range', () => {
    expect(() => fadeOutEdits(start({ type: 'setRange', start: 0, end: RATE }), 2)).toThrow(RangeError);
  });
});
