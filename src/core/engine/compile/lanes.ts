import type { LanePoint } from '@/core/lanes';
import { pointsOf, type Bus, type SessionDoc, type Track } from '@/core/session';
import { stageKind } from '@/core/stages';
import type { Placement } from '@/core/speakers';
import type { LinkLanes, NodeLanes, StageLane } from '../plan';

/** What of a track or bus follows the timeline; null: nothing. How late its sound is comes with the compensation. */
export function nodeLanes(doc: SessionDoc, { id, chain }: Track | Bus): NodeLanes | null {
  const level = pointsOf(doc, { node: id, param: 'level' });
  const muted = pointsOf(doc, { node: id, param: 'muted' });
  const stages = chain.flatMap((stage): [string, StageLane[]][] => {
    const moved = stageKind(stage.type).params.flatMap((p): StageLane[] => {
      const points = pointsOf(doc, { node: id, stage: stage.id, param: p.id });
      return points ? [{ param: p.id, points, ...(p.log ? { log: true as const } : {}) }] : [];
    });
    return moved.length ? [[stage.id, moved]] : [];
  });
  if (!level && !muted && stages.length === 0) return null;
  return {
    late: 0,
    ...(level ? { level } : {}),
    ...(muted ? { sounds: muted.map((p) => ({ ...p, value: 1 - p.value })) } : {}),
    ...(stages.length ? { stages: Object.fromEntries(stages) } : {}),
  };
}

const PLACE = ['azimuth', 'elevation', 'distance', 'width', 'spread', 'lfe'] as const satisfies (keyof Placement)[];

/** The parts of a place that follow the timeline: a track's or bus's own, or those of one of its sends. */
export function placeMoves(
  doc: SessionDoc,
  node: string,
  send?: string,
): NonNullable<LinkLanes['place']>['moves'] | null {
  const moves = PLACE.flatMap((param): [string, LanePoint[]][] => {
    const points = pointsOf(doc, { node, ...(send ? { send } : {}), param });
    return points ? [[param, points]] : [];
  });
  return moves.length ? Object.fromEntries(moves) : null;
}
