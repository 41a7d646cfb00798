import { endOf, feeding, isFresh, pointsOf, referencesOf, thawEdit, type Bus, type SessionDoc } from '@/core/session';
import { stageKind } from '@/core/stages';
import { formatDb } from '@/core/units';
import { fileCheck } from './briefCheck';
import { byGrade, type Check } from './check';
import { carryMend } from './doubledCheck';
import { pathAudit } from './pathAudit';

/** dB; a level that ends lower was faded out. */
const FADED = -60;
/** A tail shorter than this is no tail (s). */
const SHORT_TAIL = 0.2;

/** Seconds of the longest tail that what comes to a stage near the end of the range still has when it ends; 0: none. */
function tailAtEnd(doc: SessionDoc): number {
  const { start, end } = doc.range;
  let most = 0;
  for (const node of [...doc.tracks, ...doc.buses]) {
    const tail = Math.max(0, ...node.chain.map((s) => (s.on ? (stageKind(s.type).tail?.(s.values) ?? 0) : 0)));
    if (tail < SHORT_TAIL) continue;
    const fed = new Set(feeding(doc, node.id).map((n) => n.id));
    for (const track of doc.tracks) {
      if (track.muted || track.print !== undefined || !fed.has(track.id)) continue;
      for (const clip of track.clips) {
        const last = Math.min(end, clip.start + clip.length);
        if (clip.start < end && last > start) most = Math.max(most, tail - (end - last) / doc.format.sampleRate);
      }
    }
  }
  return most > SHORT_TAIL ? most : 0;
}

/** What would make a print differ from what is expected; asked before printing. */
export function printCheck(doc: SessionDoc): Check[] {
  const found: Check[] = [];
  const add = (c: Omit<Check, 'place'>) => found.push({ place: 'print', ...c });
  // A mute that follows the timeline counts in place of the one that is set.
  const muteLane = (node: string) => pointsOf(doc, { node, param: 'muted' }) !== undefined;
  const toUnity = (bus: Bus) => ({ type: 'setBus' as const, bus: bus.id, level: 0 });
  const off = doc.buses.filter((b) => b.level !== 0 && !pointsOf(doc, { node: b.id, param: 'level' }));
  const allToUnity = off.length > 1 ? [{ label: `All ${off.length} to unity`, edits: off.map(toUnity) }] : [];
  for (const bus of doc.buses) {
    if (bus.kind === 'reference' && bus.trim !== 0)
      add({
        id: `trim/${bus.id}`,
        grade: 'warn',
        about: [bus.id],
        title: `${bus.name} is trimmed by ${formatDb(bus.trim, 1, true)} dB`,
        why: 'The stems will not add up to it.',
        mends: [{ label: 'Set to unity', edits: [{ type: 'setBus', bus: bus.id, trim: 0 }] }],
      });
    const level = pointsOf(doc, { node: bus.id, param: 'level' });
    if (level && bus.kind === 'reference' && level.some((p) => p.value !== 0))
      add({
        id: `reference-lane/${bus.id}`,
        grade: 'warn',
        about: [bus.id],
        title: `The level of ${bus.name} follows a lane`,
        why: 'The stems will not add up to it where the lane is not at unity.',
        mends: [
          {
            label: 'Switch the lane off',
            edits: [{ type: 'setLane', target: { node: bus.id, param: 'level' }, on: false }],
          },
        ],
      });
    const last = level?.at(-1);
    // A lane that ends in silence is a fade; one that ends anywhere else leaves the bus there.
    if (last && bus.kind !== 'reference' && last.value !== 0 && last.value > FADED)
      add({
        id: `lane-end/${bus.id}`,
        grade: 'note',
        about: [bus.id],
        title: `The level of ${bus.name} ends at ${formatDb(last.value, 1, true)} dB`,
        why: 'Its lane does not come back to unity; from its last point on it is printed like this.',
        mends: [
          {
            label: 'Back to unity at its end',
            edits: [
              {
                type: 'writeLane',
                target: { node: bus.id, param: 'level' },
                from: last.at,
                to: last.at,
                points: [{ ...last, value: 0 }],
              },
            ],
          },
        ],
      });
    if (level || bus.level === 0) continue;
    add({
      id: `unity/${bus.id}`,
      grade: bus.kind === 'reference' ? 'warn' : 'note',
      about: [bus.id],
      title: `${bus.name} stands at ${formatDb(bus.level, 1, true)} dB`,
      why: bus.kind === 'reference' ? 'The stems will not add up to the reference.' : 'It is printed like this.',
      mends: [{ label: 'Set to unity', edits: [toUnity(bus)] }, ...allToUnity],
    });
  }
  for (const reference of referencesOf(doc))
    for (const stage of reference.chain)
      if (stage.on)
        add({
          id: `reference-stage/${stage.id}`,
          grade: 'warn',
          about: [reference.id],
          title: `${reference.name} has a stage of its own`,
          why: 'Where it acts, the stems will not add up to the reference.',
          mends: [
            ...carryMend(doc, reference, stage),
            {
              label: 'Bypass it',
              edits: [{ type: 'switchStage', owner: { kind: 'bus', id: reference.id }, stage: stage.id, on: false }],
            },
          ],
        });
  for (const bus of doc.buses) {
    if (bus.muted && !muteLane(bus.id))
      add({
        id: `muted/${bus.id}`,
        grade: 'stop',
        about: [bus.id],
        title: `${bus.name} is muted`,
        why: 'Its file will be silent.',
        mends: [{ label: 'Unmute', edits: [{ type: 'setBus', bus: bus.id, muted: false }] }],
      });
  }
  // What was printed is muted until it is listened to, and printed never.
  const sources = doc.tracks.filter((t) => t.print === undefined);
  const muted = sources.filter((t) => t.muted && !muteLane(t.id));
  if (muted.length)
    add({
      id: 'muted-tracks',
      grade: 'note',
      about: muted.map((t) => t.id),
      title: `${muted.map((t) => t.name).join(', ')} muted`,
      why: 'The print will not contain them.',
      mends: [{ label: 'Unmute', edits: muted.map((t) => ({ type: 'setTrack' as const, track: t.id, muted: false })) }],
    });
  for (const node of [...doc.tracks, ...doc.buses])
    if (node.frozen && !isFresh(doc, node))
      add({
        id: `frozen/${node.id}`,
        grade: 'note',
        about: [node.id],
        title: `${node.name} was changed after it was frozen`,
        why: 'It plays and prints from what feeds it and its chain, as if it were not frozen. Freeze it again in Flow to save the work.',
        mends: [{ label: 'Thaw', edits: [thawEdit(node)] }],
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
  const cut = tailAtEnd(doc);
  if (cut > 0 && !doc.settings.tail)
    add({
      id: 'tail',
      grade: 'note',
      about: [],
      title: `A tail of ${cut.toFixed(1)} s is cut at the end of the range`,
      why: 'Something comes to a reverb or a delay there, and the files end with the range.',
      mends: [{ label: 'Print on until it has decayed', edits: [{ type: 'setWork', tail: 'decayed' }] }],
    });
  const ends = endOf({ ...doc, tracks: sources });
  if (ends > doc.range.end)
    add({
      id: 'range',
      grade: 'note',
      about: [],
      title: 'Clips go on after the range',
      why: 'What stands behind the end of the range is not printed.',
      mends: [{ label: 'Print to the last clip', edits: [{ type: 'setRange', start: doc.range.start, end: ends }] }],
    });
  found.push(...fileCheck(doc));
  return found;
}

/** Everything that is asked before printing, the gravest first: the same on the page, the server and the command line. */
export const beforePrinting = (doc: SessionDoc): Check[] =>
  byGrade([...printCheck(doc), ...pathAudit(doc).filter((c) => c.grade !== 'note')]);
