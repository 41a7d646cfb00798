import { pathFrom, reachedFrom } from '@/core/paths';
import { referenceOf, stemsOf, type Bus, type SessionDoc } from '@/core/session';

export interface StemMembers {
  /** Stems whose sum is the reference. */
  counted: Bus[];
  /** Stems that do not count, with the reason. */
  left: { bus: Bus; why: string }[];
}

/**
 * Which stems make a reference (the first one unless told): a stem that feeds another one is in that one already and does
 * not count twice.
 */
export function stemMembers(doc: SessionDoc, reference: Bus | undefined = referenceOf(doc)): StemMembers {
  const counted: Bus[] = [];
  const left: StemMembers['left'] = [];
  for (const bus of stemsOf(doc)) {
    const other = pathFrom(doc, bus.destination).find((b) => b.kind === 'stem');
    if (other) left.push({ bus, why: `its sound is in ${other.name} already` });
    else if (reference?.leftOut.includes(bus.id)) left.push({ bus, why: `${reference.name} leaves it out` });
    else if (!reference || !reachedFrom(doc, bus.id, (l) => l.kind === 'out').has(reference.id))
      left.push({ bus, why: 'it does not reach the reference' });
    else counted.push(bus);
  }
  return { counted, left };
}
