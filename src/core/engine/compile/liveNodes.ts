import type { Kernels } from '@/core/kernels';
import { MONITOR } from '@/core/paths';
import { hearingOf, monitorOf, type SessionDoc } from '@/core/session';
import { layoutOf, toStereo } from '@/core/speakers';
import { AUDITION, EARS, pairsOf, type PlanLink, type PlanNode } from '../plan';
import type { Compiling } from './context';
import { DIM_DB } from './soundNodes';

/** Lines that are patched, and how they are heard on their tracks. */
export function lineNodes({ doc, links, options }: Compiling): PlanNode[] {
  return doc.lines.flatMap((line): PlanNode[] => {
    const patched = links.from(line.id).filter((l) => l.kind === 'listen');
    if (patched.length === 0) return [];
    const heard = patched.flatMap((l): PlanLink[] => {
      const t = doc.tracks.find((x) => x.id === l.to)!;
      const hearing = hearingOf(t);
      const hears =
        hearing === 'always' ||
        (t.armed && (hearing === 'armed' || (hearing === 'rolling' && (options.rolling ?? false))));
      return hears ? [{ id: l.id, to: t.id, tap: 'after', gains: [[0, l.channel!, 1]], delay: 0 }] : [];
    });
    return [{ id: line.id, kind: 'line', channels: 1, chain: line.chain, gain: 1, lead: 0, links: heard }];
  });
}

/** Clicks, the monitor, and what comes to two ears. */
export function monitorNodes(k: Kernels, doc: SessionDoc): PlanNode[] {
  const layout = layoutOf(doc.format.layout);
  const { level, dimmed, muted } = monitorOf(doc);
  const centre = layout.speakers.some((s) => s.label === 'C');
  const side = (label: string) =>
    layout.speakers.length === 1 ? 1 : label === 'L' || label === 'R' ? Math.SQRT1_2 : 0;
  const clicks = layout.speakers.map((s) => (centre ? (s.label === 'C' ? 1 : 0) : side(s.label)));
  const link = (id: string, to: string, matrix: number[][]): PlanLink => ({
    id,
    to,
    tap: 'after',
    gains: pairsOf(matrix),
    delay: 0,
  });
  return [
    {
      id: AUDITION,
      kind: 'audition',
      channels: 1,
      chain: [],
      gain: 1,
      lead: 0,
      links: [link(`${AUDITION}/out`, MONITOR, [clicks])],
    },
    {
      id: MONITOR,
      kind: 'monitor',
      channels: layout.speakers.length,
      chain: [],
      lead: 0,
      gain: muted ? 0 : k.gain(level + (dimmed ? DIM_DB : 0)),
      links: [link(`${MONITOR}/out`, EARS, toStereo(layout))],
    },
    { id: EARS, kind: 'ears', channels: 2, chain: [], gain: 1, links: [], lead: 0 },
  ];
}
