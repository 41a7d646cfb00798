import { LANE_SHAPES, type LanePoint } from '@/core/lanes';
import { stageKind, STAGE_KINDS } from '@/core/stages';
import { isBus, type Bus, type LaneTarget, type SessionDoc, type Track } from './document';
import {
  BUS_PARAMS,
  CLICK_PARAMS,
  inLimits,
  MUTED,
  PLACEMENT_PARAMS,
  SEND_PARAMS,
  TRACK_PARAMS,
  type Param,
} from './params';

/** Node of the one lane that belongs to no track or bus: the level of the click. */
export const CLICK = ':click';

/** The name under which a lane stands in the session. */
export const laneKey = ({ node, send, stage, param }: LaneTarget): string =>
  [node, ...(send ? ['send', send] : []), ...(stage ? ['stage', stage] : []), param].join(' ');

const memberOf = <T extends object>(from: T, key: string): T[keyof T] | undefined =>
  Object.hasOwn(from, key) ? from[key as keyof T] : undefined;

function ofNode(node: Track | Bus, param: string): Param | undefined {
  if (param === 'muted') return MUTED;
  if (param === 'level') return (isBus(node) ? BUS_PARAMS : TRACK_PARAMS).level;
  const placed = (node.layout === 'mono' || node.layout === 'stereo') && node.placement !== null;
  return placed ? memberOf(PLACEMENT_PARAMS, param) : undefined;
}

/** The description of what a target moves; null where there is nothing that can follow the timeline. */
export function laneParam(doc: SessionDoc, target: LaneTarget): Param | null {
  if (target.node === CLICK) return memberOf(CLICK_PARAMS, target.param) ?? null;
  const node = doc.tracks.find((t) => t.id === target.node) ?? doc.buses.find((b) => b.id === target.node);
  if (!node || (target.send && target.stage)) return null;
  if (target.send) {
    const send = node.sends.find((s) => s.id === target.send);
    if (!send) return null;
    if (target.param === 'level') return SEND_PARAMS.level;
    return (send.placement && memberOf(PLACEMENT_PARAMS, target.param)) ?? null;
  }
  if (!target.stage) return ofNode(node, target.param) ?? null;
  const stage = node.chain.find((s) => s.id === target.stage);
  if (!stage || !STAGE_KINDS.some((k) => k.type === stage.type)) return null;
  const kind = stageKind(stage.type);
  const param = kind.params.find((p) => p.id === target.param);
  // What changes the delay would move everything else.
  const delay = (value: number) => kind.delay({ ...stage.values, [target.param]: value }, doc.format.sampleRate);
  return param && delay(param.min) === delay(param.max) ? param : null;
}

/** Whether a value jumps from one choice to the next. */
export const isSwitched = (param: Param): boolean => param.choices !== undefined;

/** What is wrong with the points of a lane, in a sentence; null when nothing is. */
export function pointsFault(param: Param, points: readonly LanePoint[]): string | null {
  let before = -1;
  for (const { at, value, shape } of points) {
    if (!Number.isSafeInteger(at) || at < 0) return `a point of ${param.label} would not lie on the timeline`;
    if (at <= before) return `two points of ${param.label} would stand at sample ${at}, or not in order`;
    if (!inLimits(param, value))
      return `${param.label} goes from ${param.min} to ${param.max} ${param.unit}, not to ${String(value)}`;
    if (!LANE_SHAPES.includes(shape)) return `there is no way "${String(shape)}" between points`;
    if (isSwitched(param) && (shape !== 'step' || !Number.isInteger(value)))
      return `${param.label} is one of ${param.choices!.join(', ')}: it is held from point to point`;
    before = at;
  }
  return null;
}

/** Lanes whose track, bus, send or stage is there no more go with it. */
export function dropLanes(doc: SessionDoc): void {
  for (const [key, lane] of Object.entries(doc.lanes)) if (!laneParam(doc, lane.target)) delete doc.lanes[key];
}

/** The points of a value that follows the timeline; undefined: it is as it is set. */
export function pointsOf(doc: SessionDoc, target: LaneTarget): LanePoint[] | undefined {
  const lane = doc.lanes[laneKey(target)];
  return lane?.on ? lane.points : undefined;
}

/** Moves the points of a node's lanes that stand in [from, to] by so many samples; they take the place of what is there. */
export function shiftLanes(doc: SessionDoc, node: string, from: number, to: number, by: number): void {
  for (const lane of Object.values(doc.lanes)) {
    if (lane.target.node !== node) continue;
    const moved = lane.points.filter((p) => p.at >= from && p.at <= to).map((p) => ({ ...p, at: p.at + by }));
    if (moved.length === 0) continue;
    const stays = lane.points.filter((p) => (p.at < from || p.at > to) && (p.at < from + by || p.at > to + by));
    lane.points = [...stays, ...moved].sort((a, b) => a.at - b.at);
  }
}
