import { linksOf } from '@/core/paths';
import { carryOnStems, referencesOf, type Bus, type SessionDoc, type Stage } from '@/core/session';
import { stageKind } from '@/core/stages';
import type { Check } from './check';

/** Stages that colour the sound: twice the same is one too many. */
const COLOURS = ['eq', 'lowCut', 'highCut', 'deEsser', 'compressor'];

const alike = (a: Stage, b: Stage): boolean =>
  a.type === b.type &&
  stageKind(a.type).params.every((p) => (a.values[p.id] ?? p.default) === (b.values[p.id] ?? p.default));

const stemsIn = (doc: SessionDoc, reference: Bus): Bus[] =>
  linksOf(doc)
    .to(reference.id)
    .flatMap((l) => (l.kind === 'out' ? (doc.buses.find((b) => b.id === l.from && b.kind === 'stem') ?? []) : []));

/** The same stage on a reference and on the stems that make it: their sound goes through it twice. */
export function doubledCheck(doc: SessionDoc): Check[] {
  return referencesOf(doc).flatMap((reference) =>
    reference.chain.flatMap((stage): Check[] => {
      if (!stage.on || !COLOURS.includes(stage.type)) return [];
      const twice = stemsIn(doc, reference).filter((s) => s.chain.some((x) => x.on && alike(x, stage)));
      if (twice.length === 0) return [];
      const name = stageKind(stage.type).name;
      const owner = { kind: 'bus' as const, id: reference.id };
      return [
        {
          id: `doubled/${reference.id}/${stage.id}`,
          grade: 'warn',
          place: 'flow',
          about: [reference.id, ...twice.map((s) => s.id)],
          title: `${twice.map((s) => s.name).join(', ')} and ${reference.name} have the same ${name}`,
          why: 'What goes through the stem goes through it a second time, and the stems do not add up to the reference.',
          mends: [
            {
              label: `Take it off ${reference.name}`,
              edits: [{ type: 'removeStage', owner, stage: stage.id }],
            },
          ],
        },
      ];
    }),
  );
}

/** The mend for a stage of a reference: its stems carry it, those that have it already keep the one they have. */
export function carryMend(doc: SessionDoc, reference: Bus, stage: Stage): Check['mends'][number][] {
  const edits = carryOnStems(doc, reference, stage.id);
  if (edits.length === 0 || stemsIn(doc, reference).some((s) => s.chain.some((x) => alike(x, stage)))) return [];
  return [{ label: 'Carry it on the stems', edits }];
}
