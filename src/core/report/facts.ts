import { RATE_QUALITY } from '@/core/files';
import {
  differenceText,
  linkedSentences,
  rangesOf,
  whatOf,
  type Finding,
  type Proof,
  type ProvedRange,
  type RangeFigures,
  type SoundFigures,
  type SumProof,
} from '@/core/print';
import {
  admOf,
  wordLengthOf,
  ditherOf,
  fileFormOf,
  foldOf,
  limitsOf,
  loudnessText,
  orderOf,
  type SessionDoc,
} from '@/core/session';
import { ENCODING_NAMES, foldSentence } from './folds';
import { isLayout, labelsIn, layoutOf } from '@/core/speakers';
import { formatDb, frameRate, sampleToTimecode, timecodeToFrames } from '@/core/units';

/** One printed file, as a client reads of it. */
export interface ReportRow {
  /** Range that it is of; empty where the print has one alone. */
  range: string;
  what: string;
  file: string;
  /** "5.1", "stereo, Lt/Rt". */
  layout: string;
  /** Channels in the order of the file; empty where there is nothing to say. */
  channels: string;
  bits: string;
  /** Each figure as it is written everywhere; "–" where there is none. */
  lufs: string;
  lu: string;
  dbtp: string;
  silence: string;
  /** The gravest of what was found; null: as agreed. */
  grade: 'stop' | 'warn' | null;
  verdict: string;
}

export interface ReportSum {
  figure: string;
  equal: boolean;
  to: string;
  sentences: string[];
}

/** What is drawn of one range. */
export interface ReportChart {
  /** Empty where the print has one range alone. */
  range: string;
  start: string;
  /** Where its files end: behind the tail. */
  last: string;
  seconds: number;
  loudness: NonNullable<RangeFigures['loudness']>;
  sound: SoundFigures | null;
}

/** Everything that a report says, in words and figures that are the same on paper, on a phone, in a table. */
export interface Report {
  title: string;
  client: string;
  contact: string;
  notes: string;
  version: number;
  /** Day, time and zone. */
  when: string;
  start: string;
  end: string;
  length: string;
  /** "48 kHz, 24 bit, Broadcast WAV". */
  format: string;
  picture: string;
  verdict: { good: boolean; title: string; text: string };
  sums: ReportSum[];
  rows: ReportRow[];
  /** What was agreed, and what the words mean. */
  brief: string[];
  passedBy: string[];
  /** One for each range in which the reference was measured. */
  charts: ReportChart[];
  /** LUFS of the reference and how far it may be; null: none is asked. */
  target: { at: number; tolerance: number } | null;
  checksums: { file: string; sha256: string }[];
}

/** "24 November 2026, 16:42 (UTC+1)" of an ISO time, as it is read in a time zone (IANA name). */
export function whenText(iso: string, zone: string): string {
  const at = new Date(iso);
  if (Number.isNaN(at.getTime())) return iso;
  const said = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat('en-GB', { ...options, timeZone: zone }).formatToParts(at);
  const text = (options: Intl.DateTimeFormatOptions) =>
    said(options)
      .map((p) => p.value)
      .join('');
  const offset = said({ timeZoneName: 'shortOffset' }).find((p) => p.type === 'timeZoneName')!.value;
  return `${text({ dateStyle: 'long' })}, ${text({ timeStyle: 'short' })} (${offset.replace('GMT', 'UTC').replace('-', '−')})`;
}

/** "1 min 30 s", "12.4 s", "1 h 02 min 03 s". */
export function lengthText(seconds: number): string {
  if (seconds < 60) return `${Number.isInteger(seconds) ? seconds : seconds.toFixed(1)} s`;
  const whole = Math.round(seconds);
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60), whole % 60];
  return h ? `${h} h ${String(m).padStart(2, '0')} min ${String(s).padStart(2, '0')} s` : `${m} min ${s} s`;
}

const figure = (db: number): string => (Number.isFinite(db) ? formatDb(db) : '–');

export interface ReportInput {
  version: number;
  range: { start: number; end: number };
  /** Time zone of the place that it is read in (IANA name). */
  zone: string;
}

/** What a report says of a print. `doc` is the session as it was printed. */
export function reportOf(doc: SessionDoc, proof: Proof, { version, range, zone }: ReportInput): Report {
  const rate = frameRate(doc.format.frameRate);
  const zero = timecodeToFrames(doc.format.startTimecode, rate);
  const tc = (sample: number) => sampleToTimecode(sample, zero, rate, doc.format.sampleRate);
  const ranges = rangesOf(proof, range);
  const secondsOf = (r: { start: number; end: number }) => (r.end - r.start) / doc.format.sampleRate;
  const sums = ranges.flatMap(({ name, sum, moreSums = [] }) =>
    [...(sum ? [sum] : []), ...moreSums].map((s) => ({ name, sum: s })),
  );
  const rows = ranges.flatMap((r) => r.files.map((f) => rowOf(doc, f, r.name)));
  const { limits } = doc;
  // Of files whose wish is gone since, the session's form is told.
  const forms = proof.files.map((f) => fileFormOf(doc, doc.deliverables.find((d) => d.id === f.deliverable) ?? {}));
  const rates = [...new Set(proof.files.map((f) => f.facts.sampleRate))];
  return {
    title: doc.name,
    client: doc.about?.client ?? '',
    contact: doc.about?.contact ?? '',
    notes: doc.about?.notes ?? '',
    version,
    when: whenText(proof.made, zone),
    start: tc(range.start),
    end: tc(range.end),
    length: lengthOf(ranges, secondsOf),
    format: [
      `${(rates.length ? rates : [doc.format.sampleRate]).map((r) => r / 1000).join(' and ')} kHz`,
      [...new Set(proof.files.map((f) => `${f.facts.bits}${f.facts.float ? ' bit float' : ' bit'}`))].join(' and '),
      [...new Set(forms.map((f) => f.fileKind))].join(' and '),
      ...(forms.every((f) => f.perChannel)
        ? ['one file a channel']
        : forms.some((f) => f.perChannel)
          ? ['some as one file a channel']
          : []),
    ].join(' · '),
    picture: `picture ${rate.label}`,
    verdict: verdictOf(
      proof,
      rows,
      sums.map((s) => s.sum),
    ),
    sums: sums.map((s) => sumOf(s.sum, s.name)),
    rows,
    brief: [...briefOf(doc, proof), ...madeOf(doc, proof, ranges)],
    passedBy: proof.passedBy ?? [],
    charts: ranges.flatMap((r) => {
      const seconds = secondsOf(r) + (r.tail ?? 0);
      if (!r.loudness) return [];
      const last = tc(r.start + Math.round(seconds * doc.format.sampleRate));
      return [{ range: r.name, start: tc(r.start), last, seconds, loudness: r.loudness, sound: r.sound ?? null }];
    }),
    target: limits.target === null ? null : { at: limits.target, tolerance: limits.tolerance },
    checksums: proof.files.flatMap((f) => (f.parts ?? []).map(({ file, sha256 }) => ({ file, sha256 }))),
  };
}

function lengthOf(ranges: readonly ProvedRange[], secondsOf: (r: ProvedRange) => number): string {
  const seconds = lengthText(ranges.reduce((sum, r) => sum + secondsOf(r), 0));
  if (ranges.length > 1) return `${ranges.length} ranges, ${seconds}`;
  const { tail } = ranges[0]!;
  return seconds + (tail ? ` and ${lengthText(tail)} of tail` : '');
}

// What was made of the mix on its way into the files.
function madeOf(doc: SessionDoc, proof: Proof, ranges: readonly ProvedRange[]): string[] {
  const { leadIn } = doc.printing ?? {};
  const gains = ranges.filter((r) => r.gain !== undefined);
  const gainText = (r: ProvedRange) => `${r.name ? `${r.name} ` : ''}${formatDb(r.gain!, 2, true)} dB`;
  const converted = proof.files.some((f) => f.facts.sampleRate !== doc.format.sampleRate);
  return [
    ...(doc.printing?.withoutChains ? ['Printed without any chain: every stage was passed by.'] : []),
    ...(proof.lead
      ? [
          `Every file begins ${lengthText(proof.lead)} before the range${leadIn?.pop ? `, with a tone ${lengthText(leadIn.pop)} before it at ${formatDb(leadIn.level)} dBFS` : ''}; the figures are those of the range.`,
        ]
      : []),
    ...(gains.length
      ? [
          `All files of a range were brought to the loudness that is asked, by the same gain: ${gains.map(gainText).join(', ')}.`,
        ]
      : []),
    ...(converted
      ? [`Other rates than ${doc.format.sampleRate / 1000} kHz were converted after the mix: ${RATE_QUALITY}.`]
      : []),
  ];
}

const worst = (findings: readonly Finding[]): ReportRow['grade'] =>
  (['stop', 'warn'] as const).find((g) => findings.some((f) => f.grade === g)) ?? null;

function rowOf(
  doc: SessionDoc,
  { deliverable, what, file, facts, findings, layout: own, objects }: Proof['files'][number],
  range: string,
): ReportRow {
  const d = doc.deliverables.find((x) => x.id === deliverable);
  const layout = objects ? undefined : d ? layoutOf(d.layout) : own && isLayout(own) ? layoutOf(own) : undefined;
  const set = d && foldOf(doc, d.fold);
  return {
    range,
    what: what ?? whatOf(doc, d),
    file,
    layout: layout
      ? [
          layout.name,
          ...(d && admOf(doc, d) ? ['ADM'] : []),
          ...(d?.encode ? [ENCODING_NAMES[d.encode]] : []),
          ...(set ? [set.name] : []),
        ].join(', ')
      : objects
        ? `${objects.length} objects, ADM`
        : `${facts.channels} channels`,
    channels: layout && layout.speakers.length > 2 ? labelsIn(layout, d ? orderOf(doc, d) : 'wav').join(' ') : '',
    bits: facts.float ? `${facts.bits} float` : String(facts.bits),
    lufs: figure(facts.integrated),
    lu: Number.isFinite(facts.range) ? facts.range.toFixed(1) : '–',
    dbtp: figure(facts.truePeak),
    silence: facts.silent ? 'all' : facts.longestSilence.toFixed(1),
    grade: worst(findings),
    verdict: findings.length > 0 ? findings.map((f) => f.text).join('; ') : 'as agreed',
  };
}

function verdictOf(proof: Proof, rows: readonly ReportRow[], sums: readonly SumProof[]): Report['verdict'] {
  const wrong = rows.filter((r) => r.grade !== null).length;
  const apart = sums.filter((s) => !s.equal).length;
  const passed = proof.passedBy?.length ?? 0;
  const good = wrong === 0 && apart === 0 && passed === 0;
  const files = rows.length === 1 ? '1 file' : `${rows.length} files`;
  const parts = [
    wrong === 0 ? files : `${wrong} of ${files} not as agreed`,
    ...(sums.length === 0 ? ['no sum was made'] : apart > 0 ? ['stems do not add up'] : []),
    passed === 0 ? 'nothing passed by, no source missing' : `${passed} passed by knowingly`,
  ];
  return { good, title: good ? 'As agreed' : 'Not as agreed', text: parts.join(', ') };
}

function sumOf(sum: SumProof, range: string): ReportSum {
  return {
    figure: sum.difference === -Infinity ? 'equal to the bit' : `${formatDb(sum.difference)} dB`,
    equal: sum.equal,
    to: [sum.reference ?? 'the reference', ...(range ? [range] : [])].join(', '),
    sentences: [
      sum.equal ? `${differenceText(sum.difference)}; they add up.` : 'They do not add up:',
      ...sum.reasons,
      ...(sum.equal ? sum.left.map(({ name, why }) => `${name} is not in the sum: ${why}`) : []),
      ...(sum.linked ? linkedSentences(sum.linked) : []),
      sum.sentence,
    ],
  };
}

const DITHER_TEXT = { none: '', tpdf: ', with dither', shaped: ', with shaped dither' } as const;

// What was agreed: limits, orders, fold-downs, limits of single files.
function briefOf(doc: SessionDoc, proof: Proof): string[] {
  const ids = new Set(proof.files.map((f) => f.deliverable));
  const printed = doc.deliverables.filter((d) => ids.has(d.id));
  const orders = new Map<string, string>();
  for (const d of printed) {
    const layout = layoutOf(d.layout);
    if (layout.speakers.length > 2)
      orders.set(
        `${layout.name} ${orderOf(doc, d)}`,
        `${layout.name} is ${labelsIn(layout, orderOf(doc, d)).join(' ')}.`,
      );
  }
  const folds = printed.flatMap((d) => {
    const sentence = foldSentence(doc, d);
    return sentence ? [sentence] : [];
  });
  const own = printed
    .filter((d) => d.limits)
    .map(
      (d) =>
        `${whatOf(doc, d)} ${layoutOf(d.layout).name}: ${loudnessText(limitsOf(doc, d))}, at most ${formatDb(limitsOf(doc, d).truePeak)} dBTP.`,
    );
  const bits = printed
    .filter((d) => d.wordLength || d.dither)
    .map((d) => `${whatOf(doc, d)}: ${wordLengthOf(doc, d)} bit${DITHER_TEXT[ditherOf(doc, d)]}.`);
  return [
    `Agreed: ${loudnessText(doc.limits)}, at most ${formatDb(doc.limits.truePeak)} dBTP.`,
    ...own,
    ...bits,
    ...orders.values(),
    ...new Set(folds),
  ];
}
