import { differenceText, levelText, linkedSentences, type Proof, type SumProof } from '@/core/print';
import { loudnessText, type SessionDoc } from '@/core/session';
import { formatDb, formatDuration } from '@/core/units';

function sumLines(sum: SumProof): string[] {
  return [
    `Stems against ${sum.reference ?? 'reference'}: ${differenceText(sum.difference)}. ${sum.equal ? 'They add up.' : 'They do not add up:'}`,
    ...sum.reasons.map((r) => `  - ${r}`),
    ...(sum.equal ? sum.left.map(({ name, why }) => `  ${name} is not in the sum: ${why}.`) : []),
    ...(sum.linked ? linkedSentences(sum.linked).map((s) => `  ${s}`) : []),
    sum.sentence,
  ];
}

/** The proof as plain text that a client can read. */
export function reportText(doc: SessionDoc, proof: Proof, version: number): string {
  const pad = (text: string, n: number) => text.padEnd(n);
  const right = (text: string, n: number) => text.padStart(n);
  const rows = proof.files.map(({ file, facts, findings }) =>
    [
      pad(file, 32),
      right(`${facts.channels} ch`, 6),
      right(`${facts.sampleRate / 1000} kHz`, 9),
      right(`${facts.bits} bit`, 7),
      right(formatDuration(facts.seconds), 8),
      right(levelText(facts.integrated, 'LUFS'), 12),
      right(levelText(facts.truePeak, 'dBTP'), 12),
      `  ${findings.length ? findings.map((f) => f.text).join('; ') : 'as agreed'}`,
    ].join(''),
  );
  const { sum } = proof;
  const verdict = sum
    ? [sum, ...(proof.moreSums ?? [])].flatMap(sumLines)
    : ['Stems and reference were not both printed; no sum was made.'];
  return [
    `${doc.name}, print ${version}`,
    `Made ${proof.made} with Wide Room. Asked: ${loudnessText(doc.limits)}, at most ${formatDb(doc.limits.truePeak)} dBTP.`,
    '',
    ...rows,
    '',
    ...verdict,
    '',
  ].join('\n');
}
