import type { FrameRateId, MeterPoint, TempoPoint } from '@/core/units';
import type { LayoutId, Placement } from '@/core/speakers';
import type { StageValues } from '@/core/stages';

/**
 * The session: plain JSON, changed only by edits. Times are samples from the start of the timeline, which
 * stands at `format.startTimecode`; levels are dB.
 */
export interface SessionDoc {
  version: 1;
  name: string;
  /** Short form for file names, for example "SP". */
  code: string;
  format: SessionFormat;
  tracks: Track[];
  buses: Bus[];
  monitor: Monitor;
  lines: Line[];
  media: Record<string, MediaRef>;
  deliverables: Deliverable[];
  limits: LoudnessLimits;
  namePattern: string;
  range: { start: number; end: number };
  picture: { file: string; start: number } | null;
  /** Where a new track of a width is led by itself; a width that is missing has no destination. */
  destinations: Partial<Record<LayoutId, string>>;
  tempo: { tempos: TempoPoint[]; meters: MeterPoint[] };
  /** The script: lines in order of their starts. */
  cues: Cue[];
  /** Named places on the timeline, in order. */
  markers: Marker[];
  /** Room tones at hand, cut to exact lengths. */
  shelf: RoomTone[];
  settings: Settings;
}

export interface Settings {
  listening: 'headphones' | 'loudspeakers';
  /** Seconds. */
  preRoll: number;
  postRoll: number;
  click: Click;
  /** Bars of click before recording, 0 to 4. */
  countIn: number;
  /** What tracks that are not armed do while recording. */
  guides: 'play' | 'dim' | 'mute';
  /** How much the browser buffers: short for hearing oneself, long for large mixes. */
  buffer: 'short' | 'middle' | 'long';
  lead: Lead;
  /** Seconds that recording goes back from a mistake before it continues. */
  rollBack: number;
}

/** What leads a performer into a cue. */
export interface Lead {
  beeps: boolean;
  /** Seconds between beeps; the line starts where the fourth would be. */
  beepGap: number;
  /** Seconds that the streamer runs across the picture. */
  streamer: number;
  /** Whether the picture flashes where the line starts. */
  flash: boolean;
}

export interface Click {
  when: 'never' | 'recording' | 'always';
  sound: ClickSound;
  /** dBFS of the accent. */
  level: number;
}

export type ClickSound = 'tick' | 'wood' | 'tone';

/** A piece of room tone with an exact length, kept as a file of its own. */
export interface RoomTone {
  id: string;
  name: string;
  media: string;
  frames: number;
}

export type FileKind = 'Broadcast WAV' | 'AIFF';

export type WordLength = 16 | 24 | 32;

export interface SessionFormat {
  sampleRate: number;
  wordLength: WordLength;
  fileKind: FileKind;
  /** Each channel in a file of its own; otherwise a file holds all channels of its track or bus, interleaved. */
  perChannel?: boolean;
  frameRate: FrameRateId;
  /** Timecode of sample 0. */
  startTimecode: string;
  layout: LayoutId;
}

export type InputHearing = 'always' | 'never' | 'armed' | 'rolling';

/** Clips keep their time, or their bar and beat, when the tempo map changes. */
export type Anchor = 'time' | 'music';

export interface Track {
  id: string;
  name: string;
  layout: LayoutId;
  level: number;
  muted: boolean;
  soloed: boolean;
  armed: boolean;
  hearing: InputHearing;
  anchor: Anchor;
  /** Plays for the performer; dimmed or muted by itself while recording. */
  guide: boolean;
  placement: Placement;
  /** Id of a bus; 'monitor' goes straight to the monitor; null: nowhere. */
  destination: string | null;
  chain: Stage[];
  /** Per channel: the line patched to it. */
  inputs: (string | null)[];
  clips: Clip[];
  takes: Take[];
  /** Name of the comp that is shown; the others are kept beside it. */
  compName?: string;
  otherComps?: Comp[];
}

export interface Stage {
  id: string;
  type: string;
  on: boolean;
  values: StageValues;
  /** Track or bus whose sound the stage's detector listens to instead of its own input. */
  key?: string;
}

export interface Clip {
  id: string;
  media: string;
  /** Where it stands on the timeline. */
  start: number;
  /** First sample of the file that sounds. */
  offset: number;
  length: number;
  gain: number;
  name: string;
  fadeIn?: Fade;
  fadeOut?: Fade;
  /** Crossfade with the clip that ends where this one begins; half of it lies on either side. */
  joint?: Fade;
  muted?: boolean;
  /** Neither moves nor changes until it is unlocked. */
  locked?: boolean;
  /** Clips of one group are selected and moved together. */
  group?: string;
}

export interface Fade {
  frames: number;
  curve: FadeCurve;
}

/** 'even': equal gain (a straight line); 'power': equal power (a quarter sine); 'smooth': a raised cosine. */
export type FadeCurve = 'even' | 'power' | 'smooth';

/** One way to put a track together; the shown one stands in the track's clips. */
export interface Comp {
  id: string;
  name: string;
  clips: Clip[];
}

/** A line of the script with its place in the picture. */
export interface Cue {
  id: string;
  number: string;
  start: number;
  end: number;
  character: string;
  text: string;
  note: string;
  done: boolean;
}

export interface Marker {
  id: string;
  at: number;
  name: string;
}

/** Samples of the timeline; without an end until the take's. */
export interface Shown {
  start: number;
  end?: number;
}

/** Why a take was recorded; kept from its beginning, so that it survives whatever happens meanwhile. */
export interface TakePurpose {
  cue?: string;
  /** Stretch of the timeline that is heard of it, where more is recorded for crossfades. */
  show?: Shown;
  passedBy?: string[];
}

export interface Take {
  id: string;
  number: number;
  media: string;
  dryMedia: string | null;
  start: number;
  length: number;
  /** The chains it went through, per channel. */
  chains: Stage[][];
  /** ISO time. */
  recordedAt: string;
  recovered: boolean;
  /** Chosen as good. */
  circled?: boolean;
  /** 0 to 5. */
  rating?: number;
  note?: string;
  /** Cue that it was recorded for. */
  cue?: string;
  /** Checks that were passed by knowingly when it was recorded. */
  passedBy?: string[];
}

export type BusKind = 'stem' | 'reference' | 'bus' | 'return';

export interface Bus {
  id: string;
  name: string;
  /** Two letters that stand beside the colour. */
  code: string;
  kind: BusKind;
  /** Place in the fixed row of stem colours; -1 for none. */
  hue: number;
  layout: LayoutId;
  level: number;
  muted: boolean;
  soloed: boolean;
  destination: string | null;
  chain: Stage[];
}

export interface Monitor {
  level: number;
  dimmed: boolean;
  muted: boolean;
}

/** One channel of an input device, with what stands on it. */
export interface Line {
  id: string;
  device: string;
  /** From 0. */
  channel: number;
  name: string;
  chain: Stage[];
  sheet: LineSheet;
  record: Recorded;
}

/** What of a line is kept: through its chain, untouched, or both. */
export type Recorded = 'both' | 'processed' | 'dry';

/** What stands on a line and how it is set, as written down at line-up. */
export interface LineSheet {
  /** Where the microphone stands. */
  position: string;
  kind: MicrophoneKind;
  phantom: boolean;
  /** dB taken off before the preamplifier, 0 or less. */
  pad: number;
  inverted: boolean;
  /** Low cut at the microphone. */
  lowCut: boolean;
  /** Gain of the preamplifier, dB. */
  gain: number;
}

export type MicrophoneKind = 'condenser' | 'dynamic' | 'ribbon' | 'line';

export interface MediaRef {
  id: string;
  name: string;
  channels: number;
  frames: number;
  sampleRate: number;
  kind: 'file' | 'take' | 'dry';
}

export interface Deliverable {
  id: string;
  /** Bus that is printed. */
  bus: string;
  layout: LayoutId;
  /** Stands for the bus in the file name. */
  token: string;
  /** Bits where they differ from the session's. */
  wordLength?: WordLength;
  /** Limits where they differ from the session's. */
  limits?: LoudnessLimits;
}

export interface LoudnessLimits {
  name: string;
  /** LUFS of the reference; null: no figure is asked. */
  target: number | null;
  tolerance: number;
  /** dBTP of any file. */
  truePeak: number;
}

export const MONITOR = 'monitor';

/** Thrown where an edit cannot be applied; the message is for the user. */
export class EditRefused extends Error {}

export function trackOf(doc: SessionDoc, id: string): Track {
  const found = doc.tracks.find((t) => t.id === id);
  if (!found) throw new EditRefused(`There is no track "${id}" in this session any more.`);
  return found;
}

export function busOf(doc: SessionDoc, id: string): Bus {
  const found = doc.buses.find((b) => b.id === id);
  if (!found) throw new EditRefused(`There is no bus "${id}" in this session any more.`);
  return found;
}

export function lineOf(doc: SessionDoc, id: string): Line {
  const found = doc.lines.find((l) => l.id === id);
  if (!found) throw new EditRefused(`There is no line "${id}".`);
  return found;
}

export function deliverableOf(doc: SessionDoc, id: string): Deliverable {
  const found = doc.deliverables.find((d) => d.id === id);
  if (!found) throw new EditRefused(`There is no deliverable "${id}" in this brief any more.`);
  return found;
}

/** What a file is held to: its own limits or the session's. */
export const limitsOf = (doc: SessionDoc, d: Deliverable): LoudnessLimits => d.limits ?? doc.limits;

/** Bits of a printed file. */
export const bitsOf = (doc: SessionDoc, d: Deliverable): WordLength => d.wordLength ?? doc.format.wordLength;

export const referenceOf = (doc: SessionDoc): Bus | undefined => doc.buses.find((b) => b.kind === 'reference');
export const stemsOf = (doc: SessionDoc): Bus[] => doc.buses.filter((b) => b.kind === 'stem');

/** Last sample that any clip touches. */
export const endOf = (doc: SessionDoc): number =>
  Math.max(0, ...doc.tracks.flatMap((t) => t.clips.map((c) => c.start + c.length)));
