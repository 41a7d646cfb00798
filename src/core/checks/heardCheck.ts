import { proposedGain } from '@/core/measure';
import { gainAfter, lineOf, numberOfLine, type EditJson, type Line, type SessionDoc } from '@/core/session';
import { swapCords } from './swapCords';
import { formatDb } from '@/core/units';
import type { Check } from './check';
import type { HeardLine, Live } from './live';

/** A constant part from here on is told: -40 dBFS (common practice, no source). */
const OFFSET_FROM = 0.01;
/** Two microphones of one sound correlate; below this one of them is reversed (common practice, no source). */
export const REVERSED_BELOW = -0.5;

/** What listening to the lines found: silence, hum, offset, overload, reversed poles. */
export function heardCheck(doc: SessionDoc, live: Live): Check[] {
  return [
    ...[...(live.heard ?? [])].flatMap(([id, heard]) =>
      doc.lines.some((l) => l.id === id) ? findings(doc, id, heard) : [],
    ),
    ...[...(live.swapped ?? [])].flatMap(([track, other]) => swappedImage(doc, track, other)),
  ];
}

/** Two pairs of lines that disagree about left and right: which of them is right, only the engineer can say. */
function swappedImage(doc: SessionDoc, id: string, otherId: string): Check[] {
  const [track, other] = [id, otherId].map((t) => doc.tracks.find((x) => x.id === t));
  if (!track || !other || [track, other].some((t) => t.inputs.length !== 2 || t.inputs.includes(null))) return [];
  return [
    {
      id: `swapped-image/${track.id}`,
      grade: 'warn',
      place: 'lineup',
      about: [track.id, other.id],
      title: `${track.name} and ${other.name} disagree about left and right`,
      why: 'What moved to the left in one moved to the right in the other. Walk across once more to see which is right.',
      mends: [track, other].map((t) => ({ label: `Swap ${t.name}`, edits: swapCords(t) })),
    },
  ];
}

/** The same as "Set" in Line-up does. */
function gainEdit({ id, sheet }: Line, by: number): EditJson {
  const { gain, pad } = gainAfter(sheet, by);
  return { type: 'setLine', line: id, gain, ...(pad === undefined ? {} : { pad }) };
}

/** Whether a line stands behind another one that the session knows. */
const isBehind = (doc: SessionDoc, id: string, other: string): boolean =>
  numberOfLine(other) < numberOfLine(id) || !doc.lines.some((l) => l.id === other);

function findings(doc: SessionDoc, id: string, heard: HeardLine): Check[] {
  const line = lineOf(doc, id);
  const found: Check[] = [];
  const add = (code: string, grade: Check['grade'], title: string, why: string, mends: Check['mends'] = []) =>
    found.push({ id: `${code}/${id}`, grade, place: 'lineup', about: [id], title, why, mends });
  if (heard.silent) {
    add(
      'silent-line',
      'warn',
      `${line.name} was silent while you listened`,
      'Cable, microphone or phantom power is missing.',
    );
    return found;
  }
  if (heard.overs > 0) {
    const by = proposedGain(heard, doc.format.sampleRate);
    add(
      'overload',
      'stop',
      `${line.name} reached full scale ${heard.overs} ${heard.overs === 1 ? 'time' : 'times'}`,
      'What is clipped cannot be mended afterwards.',
      [
        {
          label: `Take ${-by} dB off, then listen again`,
          edits: [gainEdit(line, by)],
        },
      ],
    );
  }
  if (heard.hum)
    add(
      'hum',
      'warn',
      `${line.name} hums at ${heard.hum.frequency} Hz, ${formatDb(heard.hum.level)} dBFS`,
      'Mains gets in: look for a loop between two earths, a lamp dimmer or a power supply beside the cable.',
    );
  // What clips on one side more than on the other has a constant part of its own: that is no direct current.
  if (heard.overs === 0 && Math.abs(heard.offset) >= OFFSET_FROM)
    add(
      'offset',
      'warn',
      `${line.name} carries ${(heard.offset * 100).toFixed(1)} % direct current`,
      'Every cut would click, and headroom is lost. A low cut takes it away.',
      line.chain.some((s) => s.type === 'lowCut' && !s.on)
        ? [
            {
              label: 'Switch on the low cut',
              edits: [
                {
                  type: 'switchStage',
                  owner: { kind: 'line', id },
                  stage: line.chain.find((s) => s.type === 'lowCut')!.id,
                  on: true,
                },
              ],
            },
          ]
        : [],
    );
  const { against } = heard;
  // Of two lines the later one is told: reversed once, both agree.
  if (against && against.correlation <= REVERSED_BELOW && isBehind(doc, id, against.line)) {
    const other = doc.lines.find((l) => l.id === against.line)?.name ?? against.line;
    add(
      'polarity',
      'warn',
      `${line.name} has its poles swapped against ${other}`,
      'Heard together they take each other away.',
      [{ label: `Reverse ${line.name}`, edits: [{ type: 'setLine', line: id, inverted: !line.sheet.inverted }] }],
    );
  }
  return found;
}
