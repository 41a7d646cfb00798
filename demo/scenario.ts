import { newLine, newSession, newTrack, type Clip, type SessionDoc, type Track } from '../src/core/session';
import type { LayoutId, Placement } from '../src/core/speakers';
import { STANDINS } from '../src/standins';
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
  sound: () => Float32Array[];
}

interface DemoTrack {
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

/** The session *The Lamp at Sallow Point*, with clips whose media have the given lengths. */
export function demoSession(
  clips: readonly (DemoClip & { media: string; frames: number; channels: number })[],
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
      .filter((c) => c.track === t.id)
      .map((c, i): Clip => ({
        id: `${t.id}-${i + 1}`,
        media: c.media,
        start: frames(c.at),
        offset: 0,
        length: c.frames,
        gain: 0,
        name: c.file.replace(/^SP_|\.wav$/g, '').replace(/_/g, ' '),
      }));
    return track;
  });
  for (const c of clips)
    doc.media[c.media] = {
      id: c.media,
      name: c.file,
      channels: c.channels,
      frames: c.frames,
      sampleRate: 48000,
      kind: 'file',
    };
  const eight = STANDINS.find((s) => s.id === 'standin-eight')!;
  ['narrator', 'pilot', 'apprentice'].forEach((id, channel) => {
    const line = {
      ...newLine(eight.id, channel, eight.lines[channel]!.name),
      sheet: { ...eight.lines[channel]!.sheet },
    };
    doc.lines.push(line);
    doc.tracks.find((t) => t.id === id)!.inputs = [line.id];
  });
  doc.deliverables.splice(1, 0, { id: 'print-ref-stereo', bus: 'ref', layout: 'stereo', token: 'REF' });
  doc.range = { start: 0, end: frames(SECONDS) };
  doc.picture = { file: '/demo/picture.mp4', start: 0 };
  return doc;
}
