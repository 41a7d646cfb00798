import { sumNode, type Link } from '@/core/paths';
import { wordLengthOf, busOf, referencesOf, type Bus, type Linked, type SessionDoc, type Stage } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { APPLIERS, curveCount, DETECTORS } from '@/core/stages';
import { linkedLimiter, linkedNode, through, type PlanLink, type PlanNode } from '../plan';
import type { Compiling } from './context';
import { linkGains } from './linkGains';

const APPLY = 'linked-gain';

/** Whether a way out leads from a stem that is limited together with others to a reference. */
export function isLinked({ doc, links }: Compiling, l: Link): boolean {
  if (l.kind !== 'out' || !links.from(l.from).some((s) => s.kind === 'sum')) return false;
  return doc.buses.some((b) => b.id === l.to && b.kind === 'reference');
}

const membersOf = (ctx: Compiling, reference: Bus): Bus[] =>
  ctx.links
    .to(sumNode(reference.id))
    .filter((l) => l.kind === 'sum' && !ctx.closing.has(outOf(ctx, l.from, reference.id)!.id))
    .map((l) => busOf(ctx.doc, l.from));

const outOf = ({ links }: Compiling, stem: string, reference: string): Link | undefined =>
  links.from(stem).find((l) => l.kind === 'out' && l.to === reference);

/** What a stem gives to the detectors of its references, and to the gain that they make for it. */
export function toLinked(ctx: Compiling, stem: Bus): PlanLink[] {
  return ctx.links.from(stem.id).flatMap((l): PlanLink[] => {
    if (l.kind !== 'sum') return [];
    const reference = referencesOf(ctx.doc).find((r) => sumNode(r.id) === l.to)!;
    const out = outOf(ctx, stem.id, reference.id);
    if (!out || ctx.closing.has(out.id)) return [];
    const to = linkedNode(reference.id, stem.id);
    return [
      { id: l.id, to: l.to, tap: 'after', gains: linkGains(ctx, out, stem), delay: 0 },
      { id: `${stem.id}/${to}`, to, tap: 'after', gains: through(widthOf(stem.layout)), delay: 0 },
    ];
  });
}

/**
 * The nodes by which the stems of a reference are limited together: one that looks at their sum, and one for each stem,
 * which delays it by the look-ahead and gives it the gain that the sum would get.
 */
export function linkedNodes(ctx: Compiling, reference: Bus): PlanNode[] {
  const linked = reference.linked!;
  const members = membersOf(ctx, reference);
  const sum = sumNode(reference.id);
  const limits = linked.peaks === 'true' ? 1 : 0;
  const detect: Stage = {
    id: linkedLimiter(reference.id),
    type: DETECTORS[linked.peaks].type,
    on: true,
    values: { ceiling: linked.ceiling, release: linked.release, limits, margin: marginOf(ctx.doc, members, linked) },
  };
  const apply: Stage = { id: APPLY, type: APPLIERS[linked.peaks].type, on: true, values: {} };
  return [
    {
      id: sum,
      kind: 'sum',
      channels: widthOf(reference.layout) + curveCount({ limits }),
      chain: [detect],
      gain: 1,
      links: [],
      lead: 0,
    },
    ...members.map((stem): PlanNode => {
      // A stem is printed as its first reference limits it, and goes so into those that do not limit it themselves.
      const first = ctx.links.from(stem.id).find((l) => l.kind === 'sum')!.to === sum;
      const outs = ctx.links.from(stem.id).filter((l) => {
        if (!isLinked(ctx, l) || ctx.closing.has(l.id)) return false;
        return l.to === reference.id || (first && !busOf(ctx.doc, l.to).linked?.on);
      });
      return {
        id: linkedNode(reference.id, stem.id),
        kind: 'linked',
        channels: widthOf(stem.layout),
        chain: [apply],
        gain: 1,
        links: outs.map((l) => ({ id: l.id, to: l.to, tap: 'after', gains: linkGains(ctx, l, stem), delay: 0 })),
        lead: 0,
        keys: { [APPLY]: sum },
        ...(first ? { prints: stem.id } : {}),
      };
    }),
  ];
}

/**
 * How much lower the ceiling must lie (dB) so that the sum holds it once each stem is rounded to its file: half a step
 * of the word length for each, one and a half where it is dithered (TPDF), and the rounding of the arithmetic.
 */
function marginOf(doc: SessionDoc, members: readonly Bus[], linked: Linked): number {
  const steps = members.map((stem) => {
    const bits = doc.deliverables.filter((d) => d.bus === stem.id).map((d) => wordLengthOf(doc, d));
    const fewest = Math.min(doc.format.wordLength, ...bits);
    return (fewest === 16 ? 1.5 : 0.5) * 2 ** (1 - Math.min(fewest, 24)) + 2 ** -23;
  });
  const error = steps.reduce((sum, s) => sum + s, 0);
  const db = -20 * Math.log10(1 - error / 10 ** (linked.ceiling / 20));
  // Rounded up far above the last bit of a logarithm: every engine must come to the same figure.
  return Math.ceil(db * 1e6) / 1e6;
}
