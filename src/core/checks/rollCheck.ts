import { stemOfTrack } from '@/core/paths';
import {
  armForCue,
  deviceOfLine,
  hearingOf,
  isLineOf,
  trackOfCharacter,
  type SessionDoc,
  type Track,
} from '@/core/session';
import type { Check } from './check';
import type { Live } from './live';

/** Below this nothing but noise arrives (dBFS; common practice, no source). */
export const SIGNAL_FLOOR = -60;

/** What would go wrong if recording began now. */
export function rollCheck(doc: SessionDoc, live: Live): Check[] {
  const armed = doc.tracks.filter((t) => t.armed);
  const found: Check[] = [];
  const add = (c: Finding) => found.push({ place: 'floor', ...c });
  if (armed.length === 0) {
    const ready = doc.tracks.find((t) => t.inputs.some((l) => l !== null));
    add({
      id: 'nothing-armed',
      grade: 'stop',
      about: [],
      title: 'No track is armed',
      why: 'Nothing would be recorded.',
      mends: ready
        ? [{ label: `Arm ${ready.name}`, edits: [{ type: 'seatTrack', track: ready.id, armed: true }] }]
        : [],
    });
  }
  wrongRates(doc, armed, live).forEach(add);
  fullDisk(doc, armed, live).forEach(add);
  audibleGuides(doc, armed).forEach(add);
  closedDevices(doc, armed, live).forEach(add);
  otherCharacter(doc, armed, live).forEach(add);
  for (const track of armed) {
    const disarm = { label: 'Disarm', edits: [{ type: 'seatTrack' as const, track: track.id, armed: false }] };
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
      // Its device is told of once, not for each of its lines.
      if (level === undefined) continue;
      // Who has spoken once may be silent until the take begins; who was passed by is not asked about again.
      const silent = level < SIGNAL_FLOOR && !live.spoken?.has(id);
      if (silent && !live.passed?.has(`no-signal/${track.id}/${id}`)) {
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
    if (doc.settings.listening === 'loudspeakers' && hearingOf(track) !== 'never') {
      add({
        id: `feedback/${track.id}`,
        grade: 'warn',
        about: [track.id],
        title: `${track.name} may feed back`,
        why: 'Its input is heard on loudspeakers, in reach of the microphone.',
        mends: [
          { label: 'Do not hear the input', edits: [{ type: 'seatTrack', track: track.id, hearing: 'never' }] },
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

type Finding = Omit<Check, 'place'>;

/** A cue that would be rolled while the track of another character is armed, and not its own. */
function otherCharacter(doc: SessionDoc, armed: Track[], live: Live): Finding[] {
  const cue = doc.cues.find((c) => c.id === live.cue);
  const own = cue && trackOfCharacter(doc, cue.character);
  if (!cue || !own || own.armed || armed.length === 0) return [];
  return [
    {
      id: `other-character/${cue.id}`,
      grade: 'warn',
      about: [own.id, ...armed.map((t) => t.id)],
      title: `Cue ${cue.number} is ${cue.character}'s, and ${armed.map((t) => t.name).join(', ')} ${armed.length === 1 ? 'is' : 'are'} armed`,
      why: `The take would lie on another track than ${own.name}.`,
      mends: [{ label: `Arm ${own.name}`, edits: armForCue(doc, cue) }],
    },
  ];
}

/** Devices of armed tracks that are off: one finding for each, however many lines it has. */
function closedDevices(doc: SessionDoc, armed: Track[], live: Live): Finding[] {
  const closed = armed.flatMap((track) =>
    track.inputs.flatMap((id) => {
      if (id === null || live.lines.has(id)) return [];
      const line = doc.lines.find((l) => l.id === id);
      return [{ track, id, device: line?.device ?? deviceOfLine(id) }];
    }),
  );
  return [...new Set(closed.map((c) => c.device))].flatMap((device): Finding[] => {
    const known = live.devices?.get(device);
    // One that is not there at all is a finding of Line-up.
    if (live.devices && known?.state !== 'off') return [];
    const mine = closed.filter((c) => c.device === device);
    const tracks = [...new Set(mine.map((c) => c.track))];
    const disarm = tracks.map((t) => ({ type: 'seatTrack' as const, track: t.id, armed: false }));
    return [
      {
        id: `not-open/${device}`,
        grade: 'stop',
        about: [...tracks.map((t) => t.id), ...mine.map((c) => c.id)],
        title: `${known?.name ?? `The device of ${doc.lines.find((l) => l.id === mine[0]!.id)?.name ?? mine[0]!.id}`} is switched off`,
        why: `${tracks.map((t) => t.name).join(', ')} would record silence.`,
        mends: [
          ...(known ? [{ label: 'Switch it on', edits: [], act: { device, what: 'switch-on' as const } }] : []),
          { label: 'Disarm', edits: disarm },
        ],
      },
    ];
  });
}

function wrongRates(doc: SessionDoc, armed: Track[], live: Live): Finding[] {
  return [...(live.rates ?? [])].flatMap(([device, rate]) => {
    const lines = armed.flatMap((t) => t.inputs).filter((l) => isLineOf(device, l));
    if (rate === doc.format.sampleRate || lines.length === 0) return [];
    return [
      {
        id: `device-rate/${device}`,
        grade: 'warn' as const,
        about: lines,
        title: `The device of ${doc.lines.find((l) => l.id === lines[0])?.name ?? lines[0]} runs at ${rate / 1000} kHz`,
        why: `The session is at ${doc.format.sampleRate / 1000} kHz: the browser converts with a quality it does not state. Set the device to the session's rate.`,
        mends: [],
      },
    ];
  });
}

/** Less room than for this long is told (minutes; common practice, no source). */
const MINUTES_LEFT = 30;

/** Minutes of recording on these tracks, processed and dry, for which `free` bytes are enough. */
export function minutesOnDisk({ format }: SessionDoc, armed: readonly Track[], free: number): number {
  const channels = 2 * armed.reduce((sum, t) => sum + t.inputs.length, 0);
  return free / (channels * format.sampleRate * (format.wordLength / 8) * 60);
}

function fullDisk(doc: SessionDoc, armed: Track[], live: Live): Finding[] {
  if (live.diskFree === undefined || armed.length === 0) return [];
  const minutes = minutesOnDisk(doc, armed, live.diskFree);
  if (minutes >= MINUTES_LEFT) return [];
  return [
    {
      id: 'disk',
      grade: minutes < 1 ? 'stop' : 'warn',
      about: [],
      title: minutes < 1 ? 'The disk is full' : `The disk holds ${Math.floor(minutes)} more minutes`,
      why: 'Then a recording goes on in this browser only, until there is room for it on the server. Make room first.',
      mends: [],
    },
  ];
}

function audibleGuides(doc: SessionDoc, armed: Track[]): Finding[] {
  const guides = doc.tracks.filter((t) => t.guide && !t.armed && !t.muted && t.clips.length > 0);
  if (armed.length === 0 || guides.length === 0) return [];
  if (doc.settings.listening !== 'loudspeakers' || doc.settings.guides === 'mute') return [];
  return [
    {
      id: 'guide-audible',
      grade: 'warn',
      about: guides.map((g) => g.id),
      title: `${guides.map((g) => g.name).join(', ')} ${guides.length === 1 ? 'is' : 'are'} heard on loudspeakers`,
      why: 'The microphone would record the guide.',
      mends: [
        { label: 'Mute guides while recording', edits: [{ type: 'setWork', guides: 'mute' }] },
        { label: 'I wear headphones', edits: [{ type: 'setSession', listening: 'headphones' }] },
      ],
    },
  ];
}
