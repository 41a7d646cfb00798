import { swapCords } from './swapCords';
import type { Line, SessionDoc, Track } from '@/core/session';
import type { Check } from './check';

/** What the line sheet itself tells: microphones without supply, names that serve twice. */
export function lineCheck(doc: SessionDoc): Check[] {
  const patched = new Set(doc.tracks.flatMap((t) => t.inputs));
  return [
    ...doc.lines.flatMap((line) => supply(doc, line, patched.has(line.id))),
    ...twins(doc),
    ...doc.tracks.flatMap((t) => swapped(doc, t)),
  ];
}

function supply(doc: SessionDoc, line: Line, patched: boolean): Check[] {
  const { kind, phantom } = line.sheet;
  if (kind === 'condenser' && !phantom) {
    const track = doc.tracks.find((t) => t.inputs.includes(line.id));
    return [
      {
        id: `no-phantom/${line.id}`,
        grade: track?.armed ? 'stop' : 'warn',
        place: 'lineup',
        about: [line.id, ...(track ? [track.id] : [])],
        title: `${line.name}: a condenser microphone without 48 V`,
        why: patched ? `${track!.name} would record silence.` : 'It will be silent.',
        mends: [
          { label: 'Switch on 48 V', edits: [{ type: 'setLine', line: line.id, phantom: true }] },
          { label: 'It is no condenser', edits: [{ type: 'setLine', line: line.id, kind: 'dynamic' }] },
        ],
      },
    ];
  }
  if (kind === 'ribbon' && phantom)
    return [
      {
        id: `ribbon-phantom/${line.id}`,
        grade: 'warn',
        place: 'lineup',
        about: [line.id],
        title: `${line.name}: 48 V on a ribbon microphone`,
        // Common practice, no source: a miswired cable puts the voltage across the ribbon.
        why: 'With a faulty cable the voltage can destroy the ribbon.',
        mends: [{ label: 'Switch off 48 V', edits: [{ type: 'setLine', line: line.id, phantom: false }] }],
      },
    ];
  return [];
}

function twins(doc: SessionDoc): Check[] {
  const byName = new Map<string, Line[]>();
  for (const line of doc.lines) {
    const key = line.name.trim().toLowerCase();
    byName.set(key, [...(byName.get(key) ?? []), line]);
  }
  return [...byName.values()]
    .filter((group) => group.length > 1)
    .map((group) => ({
      id: `same-line-name/${group[0]!.id}`,
      grade: 'warn' as const,
      place: 'lineup' as const,
      about: group.map((l) => l.id),
      title: `${group.length} lines are called ${group[0]!.name}`,
      why: 'Which is which would be found out only in the mix.',
      mends: [
        {
          label: 'Number them',
          edits: group.map((l, i) => ({ type: 'setLine' as const, line: l.id, name: `${l.name} ${i + 1}` })),
        },
      ],
    }));
}

const sideOf = (name: string): 'left' | 'right' | null =>
  /(^|\W)(l|left)\W*$/i.test(name) ? 'left' : /(^|\W)(r|right)\W*$/i.test(name) ? 'right' : null;

/** A stereo track whose left channel takes a line that calls itself right, and the other way round. */
function swapped(doc: SessionDoc, track: Track): Check[] {
  if (track.layout !== 'stereo') return [];
  const [left, right] = track.inputs.map((id) => doc.lines.find((l) => l.id === id));
  if (!left || !right || sideOf(left.name) !== 'right' || sideOf(right.name) !== 'left') return [];
  return [
    {
      id: `swapped/${track.id}`,
      grade: 'warn',
      place: 'lineup',
      about: [track.id, left.id, right.id],
      title: `${track.name}: left and right are swapped`,
      why: `${left.name} comes on the left, ${right.name} on the right.`,
      mends: [
        {
          label: 'Swap the cords',
          edits: swapCords(track),
        },
      ],
    },
  ];
}
