import {
  applyEdit,
  newSession,
  newTrack,
  readEdit,
  type Clip,
  type EditJson,
  type SessionDoc,
} from '../src/core/session';
import { SCRIPT } from './script';
import type { DemoClip, DemoTrack } from './scenario';
import { clockwork, rain } from './sounds/dome';
import { foghorn } from './sounds/harbour';
import { frames } from './sounds/random';
import { gulls, wind } from './sounds/sea';

export const DOME_ID = 'dome';
const SECONDS = 40;

const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '7.1.4',
} as const;

const TRACKS: readonly DemoTrack[] = [
  { id: 'narrator', name: 'Narrator', layout: 'mono', to: 'nar', level: 3.3 },
  { id: 'clockwork', name: 'Clockwork', layout: 'mono', to: 'efx', level: -4, place: { azimuth: 60, elevation: 55 } },
  { id: 'horn', name: 'Foghorn', layout: 'mono', to: 'efx', level: -3, place: { azimuth: 180, lfe: -10 } },
  { id: 'rain', name: 'Rain on the dome', layout: '7.1.4', to: 'amb', level: -5 },
  { id: 'gulls', name: 'Gulls', layout: 'mono', to: 'amb', level: -3, place: { azimuth: 140, elevation: 30 } },
  {
    id: 'wind',
    name: 'Wind',
    layout: 'stereo',
    to: 'amb',
    level: -7,
    place: { azimuth: 180, width: 160, elevation: 35 },
  },
];

/** The narrator's last line, spoken in the lamp room. */
const LINE = SCRIPT.length - 1;
const SPOKEN_AT = 14;

export function domeClips(lines: ReadonlyMap<number, Float32Array>): DemoClip[] {
  const sound = (track: string, file: string, at: number, make: () => Float32Array[]): DemoClip => ({
    ...{ track, file: `LR_${file}.wav`, at, sound: make },
  });
  return [
    sound('narrator', 'Narrator_01', SPOKEN_AT, () => [lines.get(LINE)!]),
    sound('clockwork', 'Clockwork', 2, () => clockwork(36)),
    sound('horn', 'Foghorn', 26, foghorn),
    sound('rain', 'Rain_714', 0, () => rain(SECONDS)),
    sound('gulls', 'Gulls', 3, () => [gulls(16)[0]!]),
    sound('wind', 'Wind', 0, () => wind(SECONDS)),
  ];
}

/** A value of a place that follows the timeline. */
const lane = (node: string, param: string, points: readonly (readonly [at: number, value: number])[]): EditJson => ({
  type: 'writeLane',
  target: { node, param },
  ...{ from: 0, to: frames(points.at(-1)![0]) },
  points: points.map(([at, value]) => ({ at: frames(at), value, shape: 'line' as const })),
});

/** *The Lamp Room*: forty seconds for the museum's dome, in 7.1.4. */
export function domeSession(
  clips: readonly (DemoClip & { media: string; frames: number; channels: number })[],
): SessionDoc {
  const doc = newSession('The Lamp Room', 'LR', { ...FORMAT });
  doc.tracks = TRACKS.map((t) => {
    const track = newTrack(t.id, t.name, t.layout, t.to);
    track.level = t.level;
    Object.assign(track.placement, t.place);
    track.clips = clips
      .filter((c) => c.track === t.id)
      .map((c, i): Clip => ({
        ...{ id: `${t.id}-${i + 1}`, media: c.media, start: frames(c.at), offset: 0, length: c.frames, gain: 0 },
        name: c.file.replace(/^LR_|\.wav$/g, '').replace(/_/g, ' '),
      }));
    return track;
  });
  for (const { media, file, channels, frames: n } of clips)
    doc.media[media] = { id: media, name: file, channels, frames: n, sampleRate: 48000, kind: 'file' };
  doc.deliverables.splice(
    1,
    0,
    { id: 'print-ref-51', bus: 'ref', layout: '5.1', token: 'REF' },
    { id: 'print-ref-stereo', bus: 'ref', layout: 'stereo', token: 'REF' },
  );
  doc.range = { start: 0, end: frames(SECONDS) };
  const edits: EditJson[] = [
    { type: 'removeBus', bus: 'dia' },
    { type: 'removeBus', bus: 'mus' },
    // The gulls cross the dome from behind on the left to the front on the right.
    lane('gulls', 'azimuth', [
      [3, 140],
      [11, 20],
      [19, -70],
    ]),
    lane('gulls', 'elevation', [
      [3, 20],
      [11, 75],
      [19, 25],
    ]),
    { type: 'setReference', bus: 'ref', linked: { on: true, ceiling: -1, release: 80, peaks: 'true' } },
  ];
  return edits.reduce((d, edit) => applyEdit(d, readEdit(edit)).doc, doc);
}
