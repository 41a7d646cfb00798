import type { Kernels } from '@/core/kernels';
import type { SessionDoc } from '@/core/session';
import { heardNode, type Plan, type PlanNode } from '../plan';
import { heardNodes } from './heardNodes';
import { compensate } from './compensate';
import { compiling, type Compiling, type CompileOptions } from './context';
import { differenceNodes } from './differenceNodes';
import { foldNodes } from './foldNodes';
import { lineNodes, monitorNodes } from './liveNodes';
import { soundNodes } from './soundNodes';

/** Turns a session into a plan, with every delay compensated. Circles are cut at the link that closes them. */
export function compilePlan(k: Kernels, doc: SessionDoc, options: CompileOptions): Plan {
  const ctx = compiling(k, doc, options);
  const rate = doc.format.sampleRate;
  const sound = soundNodes(ctx);
  const nodes = ctx.live
    ? [...lineNodes(ctx), ...sound, ...differenceNodes(ctx, sound), ...monitorNodes(k, doc, options)]
    : [...sound, ...foldNodes(ctx, sound)];
  compensate(nodes, rate);
  return { sampleRate: rate, nodes: ctx.live ? withHeard(ctx, nodes) : nodes };
}

// Lines that are heard past what delays feed their own nodes, which stand behind them.
function withHeard(ctx: Compiling, nodes: PlanNode[]): PlanNode[] {
  const heard = heardNodes(ctx, nodes);
  const instead = new Set(heard.map((n) => n.id));
  const lines = nodes
    .filter((n) => n.kind === 'line')
    .map((n) => ({
      ...n,
      links: n.links.map((l) => (instead.has(heardNode(l.to)) ? { ...l, to: heardNode(l.to) } : l)),
    }));
  return [...lines, ...heard, ...nodes.filter((n) => n.kind !== 'line')];
}
