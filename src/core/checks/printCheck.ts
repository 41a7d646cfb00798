import { endOf, referenceOf, type SessionDoc } from '@/core/session';
import { formatDb } from '@/core/units';
import { fileCheck } from './briefCheck';
import type { Check } from './check';

/** What would make a print differ from what is expected; asked before printing. */
export function printCheck(doc: SessionDoc): Check[] {
  const found: Check[] = [];
  const add = (c: Omit<Check, 'place'>) => found.push({ place: 'print', ...c });
  const reference = referenceOf(doc);
  for (const bus of doc.buses) {
    if (bus.level === 0) continue;
    add({
      id: `unity/${bus.id}`,
      grade: bus.kind === 'reference' ? 'warn' : 'note',
      about: [bus.id],
      title: `${bus.name} stands at ${formatDb(bus.level, 1, true)} dB`,
      why: bus === reference ? 'The stems will not add up to the reference.' : 'It is printed like this.',
      mends: [{ label: 'Set to unity', edits: [{ type: 'setBus', bus: bus.id, level: 0 }] }],
    });
  }
  for (const stage of reference?.chain ?? []) {
    if (stage.on)
      add({
        id: `reference-stage/${stage.id}`,
        grade: 'warn',
        about: [reference!.id],
        title: `${reference!.name} has a stage of its own`,
        why: 'Where it acts, the stems will not add up to the reference.',
        mends: [
          {
            label: 'Bypass it',
            edits: [{ type: 'switchStage', owner: { kind: 'bus', id: reference!.id }, stage: stage.id, on: false }],
          },
        ],
      });
  }
  for (const bus of doc.buses) {
    if (bus.muted)
      add({
        id: `muted/${bus.id}`,
        grade: 'stop',
        about: [bus.id],
        title: `${bus.name} is muted`,
        why: 'Its file will be silent.',
        mends: [{ label: 'Unmute', edits: [{ type: 'setBus', bus: bus.id, muted: false }] }],
      });
  }
  const muted = doc.tracks.filter((t) => t.muted);
  if (muted.length)
    add({
      id: 'muted-tracks',
      grade: 'note',
      about: muted.map((t) => t.id),
      title: `${muted.map((t) => t.name).join(', ')} muted`,
      why: 'The print will not contain them.',
      mends: [{ label: 'Unmute', edits: muted.map((t) => ({ type: 'setTrack' as const, track: t.id, muted: false })) }],
    });
  if (doc.tracks.some((t) => t.soloed) || doc.buses.some((b) => b.soloed))
    add({
      id: 'solo',
      grade: 'note',
      about: [],
      title: 'Something is soloed',
      why: 'Solo is for listening; the print contains everything.',
      mends: [],
    });
  if (endOf(doc) > doc.range.end)
    add({
      id: 'range',
      grade: 'note',
      about: [],
      title: 'Clips go on after the range',
      why: 'What stands behind the end of the range is not printed.',
      mends: [
        { label: 'Print to the last clip', edits: [{ type: 'setRange', start: doc.range.start, end: endOf(doc) }] },
      ],
    });
  found.push(...fileCheck(doc));
  return found;
}
