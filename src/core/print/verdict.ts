import { bitsOf, limitsOf, referenceOf, stemsOf, type Deliverable, type SessionDoc } from '@/core/session';
import { formatDb } from '@/core/units';
import type { FileFacts } from '@/core/measure';
import type { SumCheck } from './sumCheck';
import { timeReference } from './files';

/** Stems and reference count as equal up to this difference, dBFS. */
export const EQUAL_BELOW = -120;

export interface Finding {
  grade: 'stop' | 'warn' | 'note';
  text: string;
}

/** Compares a printed file's measured facts with the brief. No finding: as agreed. */
export function againstBrief(
  doc: SessionDoc,
  facts: FileFacts,
  asked: {
    deliverable: Deliverable;
    channels: number;
    frames: number;
    start: number;
    isReference: boolean;
    overs: number;
  },
): Finding[] {
  const found: Finding[] = [];
  const stop = (text: string) => found.push({ grade: 'stop', text });
  if (facts.sampleRate !== doc.format.sampleRate)
    stop(`rate ${facts.sampleRate} Hz instead of ${doc.format.sampleRate}`);
  const { deliverable } = asked;
  const bits = bitsOf(doc, deliverable);
  if (facts.bits !== bits) stop(`${facts.bits} bit instead of ${bits}`);
  if (facts.channels !== asked.channels) stop(`${facts.channels} channels instead of ${asked.channels}`);
  if (facts.frames !== asked.frames) stop(`${facts.frames} samples instead of ${asked.frames}`);
  const reference = timeReference(doc, asked.start);
  if (doc.format.fileKind === 'AIFF') found.push({ grade: 'note', text: 'its start stands in its first marker' });
  else if (facts.timeReference !== reference)
    stop(`starts at sample ${facts.timeReference ?? 'unknown'} instead of ${reference}`);
  if (facts.silent) found.push({ grade: 'warn', text: 'silent from start to end' });
  if (asked.overs > 0) stop(`${asked.overs} samples over full scale`);
  const limits = limitsOf(doc, deliverable);
  if (facts.truePeak > limits.truePeak)
    stop(`true peak ${formatDb(facts.truePeak)} over ${formatDb(limits.truePeak)} dBTP`);
  // Stems are held to a loudness only where the brief says so for that file.
  const { target } = limits;
  if (
    target !== null &&
    (asked.isReference || deliverable.limits) &&
    Math.abs(facts.integrated - target) > limits.tolerance
  ) {
    found.push({
      grade: 'warn',
      text: `${formatDb(facts.integrated)} LUFS, asked ${formatDb(target)} ±${limits.tolerance}`,
    });
  }
  return found;
}

export interface SumVerdict {
  equal: boolean;
  sentence: string;
  reasons: string[];
}

/** Says whether the stems add up and, where they do not, what in the session makes the difference. */
export function sumVerdict(doc: SessionDoc, check: SumCheck, overs: number): SumVerdict {
  const equal = check.difference <= EQUAL_BELOW;
  const reasons: string[] = [];
  const reference = referenceOf(doc);
  if (!equal && reference) {
    for (const stage of reference.chain)
      if (stage.on) reasons.push(`the reference has a stage of its own (${stage.type}) that the stems have not`);
    if (reference.level !== 0)
      reasons.push(`the reference stands at ${formatDb(reference.level, 1, true)} dB instead of unity`);
    if (reference.muted) reasons.push('the reference is muted');
    for (const track of doc.tracks)
      if (track.destination === reference.id) reasons.push(`${track.name} goes to the reference without a stem`);
    for (const bus of doc.buses) {
      if (bus.kind === 'bus' && bus.destination === reference.id)
        reasons.push(`${bus.name} feeds the reference but is no stem`);
      if (bus.kind === 'stem' && bus.destination !== reference.id)
        reasons.push(`${bus.name} does not feed the reference directly`);
    }
    const printed = doc.deliverables.map((d) => d.bus);
    for (const stem of stemsOf(doc)) if (!printed.includes(stem.id)) reasons.push(`${stem.name} is not printed`);
    if (overs > 0) reasons.push(`${overs} samples were over full scale and are held there`);
    if (doc.format.wordLength === 16) reasons.push('at 16 bit, rounding alone passes -120 dBFS');
    if (reasons.length === 0) reasons.push('the session shows no reason for it; please keep this print and report it');
  }
  const what = `Sum of ${check.stems} stems against the reference, over ${check.frames.toLocaleString('en')} samples in ${check.channels} channels.`;
  const allowed = ` The rounding of ${doc.format.wordLength} bits allows ${formatDb(check.allowed)}.`;
  return { equal, reasons, sentence: what + allowed };
}
