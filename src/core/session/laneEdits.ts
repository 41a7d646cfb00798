import { laneValue, thinned, type LanePoint, type LaneShape } from '@/core/lanes';
import { stageKind } from '@/core/stages';
import { isBus, stemsOf, type Bus, type LaneTarget, type SessionDoc, type Track } from './document';
import type { EditJson } from './edits';
import { CLICK, isSwitched, laneKey, laneParam } from './lanes';
import { BUS_PARAMS, CLICK_PARAMS, MUTED, PLACEMENT_PARAMS, TRACK_PARAMS, type Param } from './params';

/** Something that can follow the timeline, with its name beside its track or bus. */
export interface LaneChoice {
  target: LaneTarget;
  /** "Level", "Send to Harbour air", "Compressor Threshold". */
  name: string;
  param: Param;
}

/** What of a track or bus can follow the timeline, in the order of the signal after the level and the mute. */
export function laneChoices(doc: SessionDoc, node: Track | Bus): LaneChoice[] {
  const own = [(isBus(node) ? BUS_PARAMS : TRACK_PARAMS).level, MUTED, ...Object.values(PLACEMENT_PARAMS)].map(
    (p): [LaneTarget, string] => [{ node: node.id, param: p.id }, p.label],
  );
  const sends = node.sends.map((s): [LaneTarget, string] => [
    { node: node.id, send: s.id, param: 'level' },
    `Send to ${doc.buses.find((b) => b.id === s.to)?.name ?? s.to}`,
  ]);
  const stages = node.chain.flatMap((s) =>
    stageKind(s.type).params.map((p): [LaneTarget, string] => [
      { node: node.id, stage: s.id, param: p.id },
      `${stageKind(s.type).name} ${p.label}`,
    ]),
  );
  return [...own, ...sends, ...stages].flatMap(([target, name]) => {
    const param = laneParam(doc, target);
    return param ? [{ target, name, param }] : [];
  });
}

export const CLICK_LANE: LaneChoice = {
  target: { node: CLICK, param: 'level' },
  name: CLICK_PARAMS.level.label,
  param: CLICK_PARAMS.level,
};

/** The name of what a lane moves: "Narrator, Level". */
export function laneName(doc: SessionDoc, target: LaneTarget): string {
  if (target.node === CLICK) return CLICK_LANE.name;
  const node = [...doc.tracks, ...doc.buses].find((n) => n.id === target.node);
  const choice = node && laneChoices(doc, node).find((c) => laneKey(c.target) === laneKey(target));
  return `${node?.name ?? target.node}, ${choice?.name ?? target.param}`;
}

/** The value that is set by hand, where no lane moves it. */
export function setValue(doc: SessionDoc, target: LaneTarget): number {
  if (target.node === CLICK) return doc.settings.click.level;
  const node = [...doc.tracks, ...doc.buses].find((n) => n.id === target.node);
  const param = laneParam(doc, target);
  if (!node || !param) return 0;
  if (target.send) return node.sends.find((s) => s.id === target.send)?.level ?? param.default;
  if (target.stage) return node.chain.find((s) => s.id === target.stage)?.values[target.param] ?? param.default;
  if (target.param === 'muted') return node.muted ? 1 : 0;
  if (target.param === 'level') return node.level;
  return node.placement?.[target.param as keyof typeof PLACEMENT_PARAMS] ?? param.default;
}

/** The value at a sample: of the lane, where there is one (on or off), else the one that is set. */
export function valueAt(doc: SessionDoc, target: LaneTarget, at: number): number {
  const lane = doc.lanes[laneKey(target)];
  return lane ? laneValue(lane.points, at) : setValue(doc, target);
}

/** How a new point goes on: what jumps between choices is held. */
export const shapeFor = (param: Param, shape: LaneShape): LaneShape => (isSwitched(param) ? 'step' : shape);

/** A value as a lane takes it: within the limits, on a step. */
export function laneStep(param: Param, value: number): number {
  const near = isSwitched(param) ? Math.round(value) : Math.round(value / param.step) * param.step;
  return Number(Math.min(param.max, Math.max(param.min, near)).toFixed(6));
}

/** One point; it takes the place of one at the same sample. */
export const pointEdit = (target: LaneTarget, point: LanePoint): EditJson => ({
  type: 'writeLane',
  target,
  from: point.at,
  to: point.at,
  points: [point],
});

/** Takes the points of a stretch away; with the last of them the lane is gone. */
export const clearEdit = (target: LaneTarget, from: number, to: number): EditJson => ({
  type: 'writeLane',
  target,
  from,
  to,
  points: [],
});

/** Where a stretch that was changed meets what stays (s). */
const MEETS = 0.02;

/**
 * Changes a lane by so much within a stretch; what lies outside stays as it is, met within 20 ms. A value that would go
 * beyond its limits is refused when the edit is made.
 */
export function scaleEdit(doc: SessionDoc, target: LaneTarget, from: number, to: number, by: number): EditJson {
  const lane = doc.lanes[laneKey(target)];
  const points = lane?.points ?? [];
  const value = (at: number) => valueAt(doc, target, at);
  const meets = Math.round(MEETS * doc.format.sampleRate);
  const round = (v: number) => Math.round(v * 1e4) / 1e4;
  const shapeAt = (at: number) => points.findLast((p) => p.at <= at)?.shape ?? 'line';
  const start = Math.max(0, from - meets);
  const inside = points.filter((p) => p.at > from && p.at < to);
  const made: LanePoint[] = [
    ...(start < from ? [{ at: start, value: value(start), shape: 'line' as const }] : []),
    { at: from, value: round(value(from) + by), shape: shapeAt(from) },
    ...inside.map((p) => ({ ...p, value: round(p.value + by) })),
    { at: to, value: round(value(to) + by), shape: 'line' },
    { at: to + meets, value: value(to + meets), shape: shapeAt(to + meets) },
  ];
  return { type: 'writeLane', target, from: start, to: to + meets, points: made };
}

/** Points of a stretch, counted from its beginning, with what the lane has at its ends. */
export function copyOf(doc: SessionDoc, target: LaneTarget, from: number, to: number): LanePoint[] {
  const points = doc.lanes[laneKey(target)]?.points ?? [];
  const shapeAt = (at: number) => points.findLast((p) => p.at <= at)?.shape ?? 'line';
  const ends = [from, to].map((at): LanePoint => ({ at, value: valueAt(doc, target, at), shape: shapeAt(at) }));
  const all = [ends[0]!, ...points.filter((p) => p.at > from && p.at < to), ends[1]!];
  return all.map((p) => ({ ...p, at: p.at - from }));
}

/** Puts copied points down from a sample on, in the place of what is there. */
export function pasteEdit(target: LaneTarget, copied: readonly LanePoint[], at: number): EditJson {
  const points = copied.map((p) => ({ ...p, at: p.at + at }));
  return { type: 'writeLane', target, from: at, to: points.at(-1)!.at, points };
}

/** Steps of a drawn fade: as straight lines in dB they miss its curve by less than a tenth. */
const FADE_STEPS = 64;
const FADE_TOLERANCE = 0.05;

/**
 * Fades all stems to silence at the end of the range, over so many seconds, by a quarter of a cosine in amplitude. The
 * references fade with them, since they are their sum. Throws RangeError when the range is shorter.
 */
export function fadeOutEdits(doc: SessionDoc, seconds: number): EditJson[] {
  const frames = Math.round(seconds * doc.format.sampleRate);
  const end = doc.range.end;
  const from = end - frames;
  if (!(frames > 0) || from < doc.range.start)
    throw new RangeError('a fade is longer than 0 s and no longer than the range');
  const { min } = BUS_PARAMS.level;
  return stemsOf(doc).map((stem): EditJson => {
    const target = { node: stem.id, param: 'level' };
    const curve = Array.from({ length: FADE_STEPS + 1 }, (_, i): LanePoint => {
      const at = from + Math.round((frames * i) / FADE_STEPS);
      const fade = i === FADE_STEPS ? -Infinity : 20 * Math.log10(Math.cos((Math.PI / 2) * (i / FADE_STEPS)));
      const value = Math.max(min, Math.round((valueAt(doc, target, at) + fade) * 100) / 100);
      return { at, value, shape: 'line' };
    });
    return { type: 'writeLane', target, from, to: end, points: thinned(curve, FADE_TOLERANCE) };
  });
}
