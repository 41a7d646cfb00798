import { stemOfTrack, type SessionDoc } from '@/core/session';
import type { LineFacts } from '@/core/measure';
import type { Check } from './check';

/** What is known of the outside at this moment. */
export interface Live {
  /** Highest level of each open line in the last seconds, dBFS; a line that is missing is not open. */
  lines: ReadonlyMap<string, number>;
  /** What listening to the lines found, by line. */
  heard?: ReadonlyMap<string, HeardLine>;
}

/** A line as it was heard, and its neighbour with swapped poles, if any. */
export interface HeardLine extends LineFacts {
  against?: { line: string; correlation: number };
}

/** Below this nothing but noise arrives (dBFS; common practice, no source). */
export const SIGNAL_FLOOR = -60;

/** What would go wrong if recording began now. */
export function rollCheck(doc: SessionDoc, live: Live): Check[] {
  const armed = doc.tracks.filter((t) => t.armed);
  const found: Check[] = [];
  const add = (c: Omit<Check, 'place'>) => found.push({ place: 'floor', ...c });
  if (armed.length === 0) {
    const ready = doc.tracks.find((t) => t.inputs.some((l) => l !== null));
    add({
      id: 'nothing-armed',
      grade: 'stop',
      about: [],
      title: 'No track is armed',
      why: 'Nothing would be recorded.',
      mends: ready ? [{ label: `Arm ${ready.name}`, edits: [{ type: 'setTrack', track: ready.id, armed: true }] }] : [],
    });
  }
  for (const track of armed) {
    const disarm = { label: 'Disarm', edits: [{ type: 'setTrack' as const, track: track.id, armed: false }] };
    const missing = track.inputs.filter((l) => l === null).length;
    if (missing > 0) {
      const taken = new Set(doc.tracks.flatMap((t) => t.inputs));
      const free = [...live.lines.keys()].find((id) => !taken.has(id) && doc.lines.some((l) => l.id === id));
      const patch =
        free && missing === 1
          ? [
              {
                label: `Patch ${doc.lines.find((l) => l.id === free)!.name}`,
                edits: [{ type: 'patch' as const, track: track.id, channel: track.inputs.indexOf(null), line: free }],
              },
            ]
          : [];
      add({
        id: `not-patched/${track.id}`,
        grade: 'stop',
        about: [track.id],
        title: `${track.name} is armed but not patched`,
        why:
          missing === track.inputs.length
            ? 'It would record silence.'
            : `${missing} of its ${track.inputs.length} channels would record silence.`,
        mends: [...patch, disarm],
      });
      continue;
    }
    for (const id of track.inputs as string[]) {
      const level = live.lines.get(id);
      const name = doc.lines.find((l) => l.id === id)?.name ?? id;
      if (level === undefined) {
        add({
          id: `not-open/${track.id}/${id}`,
          grade: 'stop',
          about: [track.id, id],
          title: `The device of ${name} is not open`,
          why: `${track.name} would record silence.`,
          mends: [disarm],
        });
      } else if (level < SIGNAL_FLOOR) {
        add({
          id: `no-signal/${track.id}/${id}`,
          grade: 'warn',
          about: [track.id, id],
          title: `No signal on ${name}`,
          why: `${track.name} would record silence. Is the microphone on?`,
          mends: [],
        });
      }
    }
    if (doc.settings.listening === 'loudspeakers' && track.hearing !== 'never') {
      add({
        id: `feedback/${track.id}`,
        grade: 'warn',
        about: [track.id],
        title: `${track.name} may feed back`,
        why: 'Its input is heard on loudspeakers, in reach of the microphone.',
        mends: [
          { label: 'Do not hear the input', edits: [{ type: 'setTrack', track: track.id, hearing: 'never' }] },
          { label: 'I wear headphones', edits: [{ type: 'setSession', listening: 'headphones' }] },
        ],
      });
    }
    if (/^(track|audio|untitled)?\s*\d*$/i.test(track.name)) {
      add({
        id: `unnamed/${track.id}`,
        grade: 'note',
        about: [track.id],
        title: `${track.name || 'A track'} has no name of its own`,
        why: 'Its files will inherit the name.',
        mends: [],
      });
    }
    if (!stemOfTrack(doc, track.destination)) {
      add({
        id: `unrouted/${track.id}`,
        grade: 'note',
        about: [track.id],
        title: `${track.name} reaches no stem`,
        why: 'The take is kept, but not printed.',
        mends: [],
      });
    }
  }
  return found;
}
