import { linksOf, pathFrom, sounds } from '@/core/paths';
import {
  admOf,
  wordLengthOf,
  fileFormOf,
  limitsOf,
  pointsOf,
  rateOf,
  type Bus,
  type Deliverable,
  type SessionDoc,
} from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { formatDb } from '@/core/units';
import type { FileFacts } from '@/core/measure';
import type { SumCheck } from './sumCheck';
import { timeReference } from './files';
import { stemMembers } from './members';

/** Stems and reference count as equal up to this difference, dBFS. */
export const EQUAL_BELOW = -120;

/** What is found in a file in which nothing sounds. */
export const SILENT = 'silent from start to end';

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
    /** What is known to be missing in it, in sentences. */
    lacking?: readonly string[];
  },
): Finding[] {
  const found: Finding[] = (asked.lacking ?? []).map((text) => ({ grade: 'stop', text }));
  const stop = (text: string) => found.push({ grade: 'stop', text });
  const { deliverable } = asked;
  const rate = rateOf(doc, deliverable);
  if (facts.sampleRate !== rate) stop(`rate ${facts.sampleRate} Hz instead of ${rate}`);
  if (admOf(doc, deliverable) && facts.kind !== 'BW64') stop(`${facts.kind} instead of BW64 with its channels told`);
  const bits = wordLengthOf(doc, deliverable);
  if (facts.bits !== bits) stop(`${facts.bits} bit instead of ${bits}`);
  if (facts.channels !== asked.channels) stop(`${facts.channels} channels instead of ${asked.channels}`);
  if (facts.frames !== asked.frames) stop(`${facts.frames} samples instead of ${asked.frames}`);
  const reference = timeReference(doc, asked.start, rate);
  if (fileFormOf(doc, deliverable).fileKind === 'AIFF')
    found.push({ grade: 'note', text: 'its start stands in its first marker' });
  else if (facts.timeReference !== reference)
    stop(`starts at sample ${facts.timeReference ?? 'unknown'} instead of ${reference}`);
  if (facts.silent) found.push({ grade: 'warn', text: SILENT });
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
      text: `${levelText(facts.integrated, 'LUFS')}, asked ${formatDb(target)} ±${limits.tolerance}`,
    });
  }
  return found;
}

/** How the stems of a print stand to its reference. */
export interface SumParts {
  /** Names of the stems that were added up. */
  counted: string[];
  /** Stems that were not, and why. */
  left: { name: string; why: string }[];
}

export interface SumVerdict extends SumParts {
  equal: boolean;
  sentence: string;
  reasons: string[];
}

/** "equal to the bit", "-96.3 dBFS at most". */
export const differenceText = (difference: number): string =>
  difference === -Infinity ? 'equal to the bit' : `${difference.toFixed(1)} dBFS at most`;

/** A level with its unit; what has none says so. */
export const levelText = (db: number, unit: string): string =>
  Number.isFinite(db) ? `${formatDb(db)} ${unit}` : `no ${unit}`;

/** Says whether the stems add up and, where they do not, what in the session makes the difference. */
export function sumVerdict(
  doc: SessionDoc,
  reference: Bus,
  check: SumCheck,
  overs: number,
  parts: SumParts,
): SumVerdict {
  // Within the rounding of the files nothing can be told apart.
  const equal = check.difference <= Math.max(EQUAL_BELOW, check.allowed);
  const what = `Sum of ${check.stems} stems (${parts.counted.join(', ')}) against ${reference.name}, over ${check.frames.toLocaleString('en')} samples in ${check.channels} channels.`;
  const allowed = ` The rounding of the files allows ${formatDb(check.allowed)} dBFS.`;
  return {
    ...parts,
    equal,
    reasons: equal ? [] : reasonsOf(doc, reference, check, overs, parts),
    sentence: what + allowed,
  };
}

function reasonsOf(doc: SessionDoc, reference: Bus, check: SumCheck, overs: number, { left }: SumParts): string[] {
  const reasons: string[] = [];
  for (const stage of reference.chain)
    if (stage.on) reasons.push(`the reference has a stage of its own (${stage.type}) that the stems have not`);
  const [level, mute] = ['level', 'muted'].map((param) => pointsOf(doc, { node: reference.id, param }));
  if (level) reasons.push('the level of the reference follows the timeline, the stems do not follow it');
  else if (reference.level !== 0)
    reasons.push(`the reference stands at ${formatDb(reference.level, 1, true)} dB instead of unity`);
  if (mute) reasons.push('the reference is muted in places along the timeline');
  else if (reference.muted) reasons.push('the reference is muted');
  if (reference.trim !== 0)
    reasons.push(`the reference is trimmed by ${formatDb(reference.trim, 1, true)} dB, the stems are not`);
  reasons.push(...besideStems(doc, reference));
  for (const { name, why } of left) reasons.push(`${name} is not in the sum: ${why}`);
  for (const bus of stemMembers(doc, reference).counted) {
    const between = pathFrom(doc, bus.destination).filter((b) => b.kind === 'bus');
    for (const b of between) {
      if (b.chain.some((s) => s.on)) reasons.push(`${bus.name} passes ${b.name}, whose chain is not in the stem`);
      const level = b.level + b.trim;
      if (level !== 0) reasons.push(`${bus.name} passes ${b.name}, which stands at ${formatDb(level, 1, true)} dB`);
    }
  }
  if (overs > 0) reasons.push(`${overs} samples were over full scale and are held there`);
  if (reasons.length === 0) reasons.push('the session shows no reason for it; please keep this print and report it');
  if (check.place) {
    const { frame, channel } = check.place;
    const label = layoutOf(reference.layout).speakers[channel]?.label ?? String(channel + 1);
    reasons.push(
      `the largest difference is ${(frame / (check.sampleRate ?? doc.format.sampleRate)).toFixed(2)} s into the print, in ${label}`,
    );
  }
  return reasons;
}

// What comes into a reference past its stems: no file of a stem holds it.
function besideStems(doc: SessionDoc, reference: Bus): string[] {
  return linksOf(doc)
    .to(reference.id)
    .flatMap((l) => {
      if (!sounds(l)) return [];
      const track = doc.tracks.find((t) => t.id === l.from);
      const bus = doc.buses.find((b) => b.id === l.from);
      const name = track?.name ?? bus!.name;
      if (l.kind === 'send') return [`${name} sends to the reference beside its stem`];
      if (track) return [`${name} goes to the reference without a stem`];
      // A group that stems lead through is told with them.
      const carries = linksOf(doc)
        .to(bus!.id)
        .some((i) => doc.buses.some((b) => b.id === i.from && b.kind === 'stem'));
      return bus!.kind === 'stem' || carries ? [] : [`${name} feeds the reference but is no stem`];
    });
}
