import {
  applyEdit,
  newLine,
  newSession,
  newTrack,
  readEdit,
  type Clip,
  type Cue,
  type SessionDoc,
  type Take,
  type Track,
} from '../src/core/session';
import type { LayoutId, Placement } from '../src/core/speakers';
import { STANDINS } from '../src/standins';
import { DEMO_PATHS } from './paths';
import { SCRIPT } from './script';
import { boat, bell, foghorn, ropes } from './sounds/harbour';
import { drone, pad } from './sounds/music';
import { frames } from './sounds/random';
import { gulls, surf, wind } from './sounds/sea';

export const SECONDS = 90;
export const DEMO_ID = 'lamp';

/** A file of the demo, and where it stands on which track. */
export interface DemoClip {
  track: string;
  file: string;
  /** Seconds. */
  at: number;
  /** Number of the take that it is, where it is one. */
  take?: number;
  sound: () => Float32Array[];
}

export interface DemoTrack {
  id: string;
  name: string;
  layout: LayoutId;
  to: string;
  level: number;
  place?: Partial<Placement>;
}

const TRACKS: readonly DemoTrack[] = [
  { id: 'narrator', name: 'Narrator', layout: 'mono', to: 'nar', level: -2.9 },
  { id: 'pilot', name: 'Pilot', layout: 'mono', to: 'dia', level: -2.6, place: { azimuth: 20 } },
  { id: 'apprentice', name: 'Apprentice', layout: 'mono', to: 'dia', level: -2.8, place: { azimuth: -18 } },
  {
    id: 'foghorn',
    name: 'Foghorn',
    layout: 'mono',
    to: 'efx',
    level: -4.5,
    place: { azimuth: 150, distance: 0.8, lfe: -10 },
  },
  { id: 'boat', name: 'Boat', layout: 'stereo', to: 'efx', level: -4, place: { width: 90 } },
  { id: 'ropes', name: 'Ropes', layout: 'mono', to: 'efx', level: -6, place: { azimuth: 70 } },
  { id: 'bell', name: 'Bell buoy', layout: 'mono', to: 'efx', level: -6, place: { azimuth: -65, distance: 0.7 } },
  { id: 'surf', name: 'Surf', layout: '5.1', to: 'amb', level: -6 },
  { id: 'wind', name: 'Wind', layout: 'stereo', to: 'amb', level: -5, place: { width: 140 } },
  { id: 'gulls', name: 'Gulls', layout: 'stereo', to: 'amb', level: -6, place: { azimuth: -150, width: 80 } },
  { id: 'pad', name: 'Pad', layout: 'stereo', to: 'mus', level: -3.5 },
  { id: 'drone', name: 'Drone', layout: 'mono', to: 'mus', level: -7, place: { distance: 0.4, lfe: -12 } },
];

/** Every clip of the demo; the voices come from `lines`, the rest is generated. */
export function demoClips(lines: ReadonlyMap<number, Float32Array>): DemoClip[] {
  const counts: Record<string, number> = {};
  const voices = SCRIPT.map((line, i): DemoClip => {
    const n = (counts[line.character] = (counts[line.character] ?? 0) + 1);
    return {
      track: line.character.toLowerCase(),
      file: `SP_${line.character}_${String(n).padStart(2, '0')}.wav`,
      at: line.at,
      sound: () => [lines.get(i)!],
    };
  });
  const sound = (track: string, file: string, at: number, make: () => Float32Array[]): DemoClip => ({
    track,
    file: `SP_${file}.wav`,
    at,
    sound: make,
  });
  return [
    ...voices,
    ...earlierTakes(lines),
    sound('foghorn', 'Foghorn_01', 10.2, foghorn),
    sound('foghorn', 'Foghorn_02', 64.9, foghorn),
    sound('foghorn', 'Foghorn_03', 83.2, foghorn),
    sound('boat', 'Boat_pass', 29, () => boat(34)),
    sound('ropes', 'Ropes', 12, () => ropes(20)),
    sound('bell', 'Bell_buoy', 36, () => bell(40)),
    sound('surf', 'Surf_51', 0, () => surf(SECONDS)),
    sound('wind', 'Wind', 0, () => wind(SECONDS)),
    sound('gulls', 'Gulls_01', 5, () => gulls(16)),
    sound('gulls', 'Gulls_02', 69, () => gulls(14)),
    sound('pad', 'Pad', 0, () => pad(SECONDS)),
    sound('drone', 'Drone', 48, () => drone(42)),
  ];
}

/** Line of the script of which there are several takes, and how fast each was spoken. */
const TAKEN = 4;
const SPEEDS = [0.94, 1, 1.05];
const NOTES = ['first pass', 'warm, slower', 'quicker'];

function earlierTakes(lines: ReadonlyMap<number, Float32Array>): DemoClip[] {
  const line = SCRIPT[TAKEN]!;
  return SPEEDS.map((speed, i) => ({
    track: line.character.toLowerCase(),
    file: `SP_${line.character}_T0${i + 1}.wav`,
    at: line.at + (speed - 1) * 2,
    take: i + 1,
    sound: () => [spokenAt(lines.get(TAKEN)!, speed)],
  }));
}

/** A line said faster or slower: another reading of it, near enough for a demonstration. */
function spokenAt(line: Float32Array, speed: number): Float32Array {
  if (speed === 1) return line;
  return Float32Array.from({ length: Math.floor(line.length / speed) - 1 }, (_, i) => {
    const at = Math.floor(i * speed);
    const rest = i * speed - at;
    return line[at]! * (1 - rest) + (line[at + 1] ?? 0) * rest;
  });
}

/** The script, with the times at which its lines are spoken. */
function cuesOf(clips: readonly (DemoClip & { frames: number })[]): Cue[] {
  return SCRIPT.map((line, i) => {
    const spoken = clips.find((c) => c.at === line.at && c.track === line.character.toLowerCase() && !c.take);
    const start = frames(line.at);
    return {
      id: `cue-${i + 1}`,
      number: String(i + 1),
      start,
      end: start + (spoken?.frames ?? frames(3)),
      character: line.character,
      text: line.text,
      note: '',
      done: false,
    };
  });
}

/**
 * The session *The Lamp at Sallow Point*, with clips whose media have the given lengths; `plain`: every track goes straight
 * to its stem, as tests like it.
 */
export function demoSession(
  clips: readonly (DemoClip & { media: string; frames: number; channels: number })[],
  plain = false,
): SessionDoc {
  const doc = newSession('The Lamp at Sallow Point', 'SP', {
    sampleRate: 48000,
    wordLength: 24,
    fileKind: 'Broadcast WAV',
    frameRate: '25',
    startTimecode: '10:00:00:00',
    layout: '5.1',
  });
  doc.tracks = TRACKS.map((t): Track => {
    const track = newTrack(t.id, t.name, t.layout, t.to);
    track.level = t.level;
    Object.assign(track.placement, t.place);
    track.clips = clips
      .filter((c) => c.track === t.id && !c.take)
      .map((c, i): Clip => ({
        id: `${t.id}-${i + 1}`,
        media: c.media,
        start: frames(c.at),
        offset: 0,
        length: c.frames,
        gain: 0,
        name: c.file.replace(/^SP_|\.wav$/g, '').replace(/_/g, ' '),
      }));
    track.takes = clips
      .filter((c) => c.track === t.id && c.take)
      .map((c): Take => ({
        id: `${t.id}-take-${c.take}`,
        number: c.take!,
        media: c.media,
        dryMedia: null,
        start: frames(c.at),
        length: c.frames,
        chains: [[]],
        recordedAt: '2026-03-02T09:00:00Z',
        recovered: false,
        circled: c.take === 2,
        note: NOTES[c.take! - 1]!,
        cue: `cue-${TAKEN + 1}`,
      }));
    return track;
  });
  doc.cues = cuesOf(clips);
  doc.markers = [{ id: 'mark-title', at: frames(86), name: 'Title' }];
  for (const c of clips)
    doc.media[c.media] = {
      id: c.media,
      name: c.file,
      channels: c.channels,
      frames: c.frames,
      sampleRate: 48000,
      kind: c.take ? 'take' : 'file',
    };
  const eight = STANDINS.find((s) => s.id === 'standin-eight')!;
  ['narrator', 'pilot', 'apprentice'].forEach((id, channel) => {
    const line = {
      ...newLine(eight.id, channel, eight.lines[channel]!.name),
      sheet: { ...eight.lines[channel]!.sheet },
    };
    doc.lines.push(line);
    const track = doc.tracks.find((t) => t.id === id)!;
    track.inputs = [line.id];
    for (const take of track.takes) take.chains = [line.chain];
  });
  doc.deliverables.splice(1, 0, { id: 'print-ref-stereo', bus: 'ref', layout: 'stereo', token: 'REF' });
  doc.range = { start: 0, end: frames(SECONDS) };
  doc.picture = { file: '/demo/picture.mp4', start: 0 };
  return plain ? doc : DEMO_PATHS.reduce((d, edit) => applyEdit(d, readEdit(edit)).doc, doc);
}
