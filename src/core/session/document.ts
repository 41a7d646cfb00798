import type { Dithering } from '@/core/files';
import type { LanePoint } from '@/core/lanes';
import type { BusKind, PathSend, Rooms } from '@/core/paths';
import type { FrameRateId, MeterPoint, TempoPoint } from '@/core/units';
import { isOwn, widthOf, type ChannelOrder, type FoldOptions, type LayoutId, type Placement } from '@/core/speakers';
import type { StageValues } from '@/core/stages';

/**
 * The session: plain JSON, changed only by edits. Times are samples from the start of the timeline, which
 * stands at `format.startTimecode`; levels are dB.
 */
export interface SessionDoc {
  /** Form of the document; older ones are brought to it when they are read (upgrade.ts). */
  version: number;
  name: string;
  /** Short form for file names, for example "SP". */
  code: string;
  format: SessionFormat;
  tracks: Track[];
  buses: Bus[];
  /** Of the seat that lies over the document (seat.ts); never stored with it. */
  monitor?: Monitor;
  /** How somebody begins who comes to this session for the first time; absent: as usual. */
  newcomer?: Seat;
  lines: Line[];
  media: Record<string, MediaRef>;
  /** For whom it is made, whom to ask, and what else a report shall say. */
  about?: { client: string; contact: string; notes: string };
  /** Language of what is spoken, as file names tell it ("en", "de-AT"). */
  language?: string;
  /** Coefficients for fold-downs beside those of ITU-R BS.775. */
  folds?: FoldSet[];
  deliverables: Deliverable[];
  limits: LoudnessLimits;
  namePattern: string;
  range: { start: number; end: number };
  /** How it is printed, where that is not as usual. */
  printing?: Printing;
  picture: Picture | null;
  /** Where a new track of a width is led by itself; a width that is missing has no destination. */
  destinations: Partial<Record<LayoutId, string>>;
  tempo: { tempos: TempoPoint[]; meters: MeterPoint[] };
  /** The script: lines in order of their starts. */
  cues: Cue[];
  /** Named places on the timeline, in order. */
  markers: Marker[];
  /** Values that follow the timeline, by their keys (lanes.ts). */
  lanes: Record<string, Lane>;
  /** Room tones at hand, cut to exact lengths. */
  shelf: RoomTone[];
  settings: Settings;
}

/** What is shown to the sound. */
export interface Picture {
  file: string;
  /** Sample at which its first frame stands. */
  start: number;
  /** Frames a second as the file tells them, "25/1". */
  rate?: string;
  /** Timecode of its first frame, as the file tells it. */
  timecode?: string;
  /** It carries a sound, which may be brought in. */
  sound?: boolean;
}

export interface Printing {
  /** What is printed beside the session's range: a set of files for each of them; absent: the range alone. */
  by?: RangesBy;
  /** Those of `list`, in order. */
  list?: NamedRange[];
  leadIn?: LeadIn;
  /** All files are brought up or down together, until the first reference stands at the brief's loudness. */
  toTarget?: true;
  /** Every stage is passed by, as if it were off, and no reference limits its stems. */
  withoutChains?: true;
  /** Letters of file names; absent: as they are written. */
  letters?: 'lower' | 'upper';
}

/** Each cue of the script; from each marker to the next; ranges that are listed by hand. */
export type RangesBy = 'cues' | 'markers' | 'list';

/** A stretch of the timeline with a name that may stand in file names. */
export interface NamedRange {
  id: string;
  name: string;
  start: number;
  end: number;
}

/** Silence that every file begins with, before the range. */
export interface LeadIn {
  seconds: number;
  /** Seconds before the range at which a tone one frame of picture long sounds; absent: none does. */
  pop?: number;
  /** dBFS of that tone's peaks. */
  level: number;
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
  /** What a print goes on for after its range: until it has decayed, or for so long; absent: it ends there. */
  tail?: Tail;
}

export interface Tail {
  until: 'decayed' | 'time';
  /** Seconds; of one that decays the most. */
  seconds: number;
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
  /** Loudspeaker of the mix that it is heard from; absent: the centre, or left and right where there is none. */
  to?: string;
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
  /** Of the seat that lies over the document (seat.ts), like the two that follow; never stored with it. */
  soloed?: boolean;
  armed?: boolean;
  hearing?: InputHearing;
  anchor: Anchor;
  /** Plays for the performer; dimmed or muted by itself while recording. */
  guide: boolean;
  placement: Placement;
  /** Id of a bus; 'monitor' goes straight to the monitor; null: nowhere. */
  destination: string | null;
  sends: Send[];
  chain: Stage[];
  /** Per channel: the line patched to it. */
  inputs: (string | null)[];
  clips: Clip[];
  takes: Take[];
  /** What it plays in the place of clips and chain, as long as they are what that was made from (frozen.ts). */
  frozen?: Frozen;
  /** Holds what was printed, of that version: for listening, no source of anything. */
  print?: number;
  /** Name of the comp that is shown; the others are kept beside it. */
  compName?: string;
  otherComps?: Comp[];
}

/** A track's or bus's sound behind its chain, in a file. */
export interface Frozen {
  media: string;
  /** Sample of the timeline at which the file begins. */
  start: number;
  /** Fingerprint of what it was made from. */
  from: number;
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
  /** Of a joint: the same sound lies on both sides, so equal gain took the place of the other law. */
  same?: boolean;
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

/** Sound that is missing in a take: silence of the right length stands in its place. Frames of the take. */
export interface TakeGap {
  at: number;
  frames: number;
}

/** The chains of a take's channels from a frame on. */
export interface ChainChange {
  at: number;
  chains: Stage[][];
}

/** What is known of a take besides its sound. */
export interface TakeFacts {
  gaps?: TakeGap[];
  /** Where a chain was changed while it was recorded. */
  chainChanges?: ChainChange[];
  /** What is wrong with it, in sentences. */
  faults?: string[];
}

export interface Take extends TakeFacts {
  id: string;
  number: number;
  media: string;
  dryMedia: string | null;
  start: number;
  length: number;
  /** The chains it went through when it began, per channel. */
  chains: Stage[][];
  /** ISO time; empty for a file that was brought in. */
  recordedAt: string;
  recovered: boolean;
  /** Was not recorded here: a file that lay on the track before something was recorded over it. */
  imported?: boolean;
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

/** What a lane moves: a value of a track or bus, of one of its sends, or of a stage of its chain. */
export interface LaneTarget {
  /** Track or bus, or the click. */
  node: string;
  send?: string;
  stage?: string;
  param: string;
}

/** A value that follows the timeline. */
export interface Lane {
  target: LaneTarget;
  /** Off: the value that is set by hand counts. */
  on: boolean;
  /** In order, each at a sample of its own, at least one. */
  points: LanePoint[];
}

/** A copy of a track's or bus's sound to another bus. */
export interface Send extends PathSend {
  /** dB. */
  level: number;
  /** Where it stands in the bus that it leads to; null: as the track does, or speaker by speaker. */
  placement: Placement | null;
}

/** One gain for all stems of a reference, so that their sum stays under the ceiling. */
export interface Linked {
  on: boolean;
  /** dBFS, or dBTP where true peaks are looked at. */
  ceiling: number;
  /** ms. */
  release: number;
  peaks: 'sample' | 'true';
}

export interface Bus {
  id: string;
  name: string;
  /** Two letters that stand beside the colour. */
  code: string;
  kind: BusKind;
  /** Place in the fixed row of stem colours; -1 for none. */
  hue: number;
  layout: LayoutId;
  /** dB, before the chain. */
  trim: number;
  level: number;
  muted: boolean;
  /** Of the seat that lies over the document; never stored with it. */
  soloed?: boolean;
  destination: string | null;
  sends: Send[];
  chain: Stage[];
  /** Of a return: one for all, or one room for each stem. */
  rooms: Rooms;
  /** Heard although something else is soloed, as far as what feeds it is heard. */
  throughSolo: boolean;
  /** Of a mono or stereo return: where it stands; null: speaker by speaker. */
  placement: Placement | null;
  /** What it plays in the place of what feeds it and its chain, as long as that is what it was made from (frozen.ts). */
  frozen?: Frozen;
  /** Of a reference: stems that do not go into it. */
  leftOut: string[];
  /** Of a reference: its stems limited together; null: it has its own chain only. */
  linked: Linked | null;
}

/**
 * What belongs to the person at the window and not to the session: what is soloed and armed, how inputs are heard, and
 * the monitor. The server keeps one for each seat of a session. `seated` lays it over the document, so that everything
 * that plays, draws and checks reads one thing.
 */
export interface Seat {
  /** Tracks and buses. */
  soloed: string[];
  /** Tracks. */
  armed: string[];
  /** By track, where it is not as usual. */
  hearing: Record<string, InputHearing>;
  monitor: Monitor;
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
  /** Which microphone it is, by maker and type. */
  model?: string;
  note?: string;
}

/** What stands on a line: a microphone by how it works, or something that gives line level. */
export const MICROPHONE_KINDS = ['condenser', 'dynamic', 'ribbon', 'line'] as const;
export type MicrophoneKind = (typeof MICROPHONE_KINDS)[number];

export interface MediaRef {
  id: string;
  name: string;
  channels: number;
  frames: number;
  sampleRate: number;
  kind: 'file' | 'take' | 'dry';
  /** Order of its channels; absent: as WAV masks count. */
  order?: ChannelOrder;
  /** Nobody said in which order its channels stand; the orders that its sound speaks for. */
  unsaid?: ChannelOrder[];
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
  /** Asked in this layout whatever the mix has: a fold-down. Any other file follows the mix. */
  ownLayout?: boolean;
  /** Of a fold-down: the session's coefficients that fold it (their id); absent: ITU-R BS.775. */
  fold?: string;
  /** Encoded into two channels from which more can be taken out again: Lt/Rt, or four in two. */
  encode?: Encoding;
  /** Of a fold-down: dBTP under which a limiter of its own holds it; absent: it is not limited. */
  ceiling?: number;
  /** Order of the channels in an interleaved file; absent: as WAV masks count. */
  order?: ChannelOrder;
  /** Hz to which it is converted after the mix; absent: as the session. */
  sampleRate?: number;
  /** A BW64 that says by the Audio Definition Model what it holds: its channels, or each placed source as an object. */
  adm?: AdmKind;
  /** Noise before rounding; absent: triangular at 16 bits, none at more. */
  dither?: Dithering;
  /** Kind of file, and whether each channel has one of its own, where that differs from the session's. */
  fileKind?: FileKind;
  perChannel?: boolean;
}

export type AdmKind = 'bed' | 'objects';

export type Encoding = 'lt-rt' | 'four-in-two';

/** Coefficients of a fold-down under a name, linear. */
export interface FoldSet extends FoldOptions {
  id: string;
  name: string;
}

export interface LoudnessLimits {
  name: string;
  /** LUFS of the reference; null: no figure is asked. */
  target: number | null;
  tolerance: number;
  /** dBTP of any file. */
  truePeak: number;
}

export { MONITOR, type BusKind } from '@/core/paths';

/** Thrown where an edit cannot be applied; the message is for the user. */
export class EditRefused extends Error {}

export function trackOf(doc: SessionDoc, id: string): Track {
  const found = doc.tracks.find((t) => t.id === id);
  if (!found) throw new EditRefused(`That track is not in the session any more.`);
  return found;
}

export function busOf(doc: SessionDoc, id: string): Bus {
  const found = doc.buses.find((b) => b.id === id);
  if (!found) throw new EditRefused(`That bus is not in the session any more.`);
  return found;
}

export function nodeOf(doc: SessionDoc, id: string): Track | Bus {
  const found = doc.tracks.find((t) => t.id === id) ?? doc.buses.find((b) => b.id === id);
  if (!found) throw new EditRefused(`That track or bus is not in the session any more.`);
  return found;
}

export function lineOf(doc: SessionDoc, id: string): Line {
  const found = doc.lines.find((l) => l.id === id);
  if (!found) throw new EditRefused(`That line is not in the line sheet.`);
  return found;
}

export function deliverableOf(doc: SessionDoc, id: string): Deliverable {
  const found = doc.deliverables.find((d) => d.id === id);
  if (!found) throw new EditRefused(`That file is not in the brief any more.`);
  return found;
}

/** What folds a file, or the monitor where it is heard so; undefined: ITU-R BS.775. */
export const foldOf = (doc: Pick<SessionDoc, 'folds'>, id: string | undefined): FoldSet | undefined =>
  id === undefined ? undefined : doc.folds?.find((f) => f.id === id);

/** Whether a mix in a layout can be encoded so: something wider than two channels, for Lt/Rt in a layout of the list. */
export const canEncode = (layout: LayoutId, encoding: Encoding): boolean =>
  widthOf(layout) > 2 && (encoding === 'four-in-two' || !isOwn(layout));

/** What a file is held to: its own limits or the session's. */
export const limitsOf = (doc: SessionDoc, d: Deliverable): LoudnessLimits => d.limits ?? doc.limits;

/** Bits of a printed file. */
export const wordLengthOf = (doc: SessionDoc, d: Deliverable): WordLength => d.wordLength ?? doc.format.wordLength;

/** Rate of a printed file in Hz. */
export const rateOf = (doc: SessionDoc, d: Deliverable): number => d.sampleRate ?? doc.format.sampleRate;

/** Noise before the rounding of a printed file; files of 32 bits are not rounded. */
export const ditherOf = (doc: SessionDoc, d: Deliverable): Dithering => {
  const bits = wordLengthOf(doc, d);
  return bits === 32 ? 'none' : (d.dither ?? (bits === 16 ? 'tpdf' : 'none'));
};

/** What a printed file tells by the Audio Definition Model, or null; one a channel and AIFF have no place for it. */
export const admOf = (doc: SessionDoc, d: Deliverable): AdmKind | null => {
  const { fileKind, perChannel } = fileFormOf(doc, d);
  return fileKind === 'Broadcast WAV' && !perChannel ? (d.adm ?? null) : null;
};

/** In which form a printed file lies on disk. */
export const fileFormOf = (
  { format }: Pick<SessionDoc, 'format'>,
  d: Pick<Deliverable, 'fileKind' | 'perChannel'>,
): { fileKind: FileKind; perChannel: boolean } => ({
  fileKind: d.fileKind ?? format.fileKind,
  perChannel: d.perChannel ?? format.perChannel ?? false,
});

/** The session as one of its files is written: in the form that is asked for that file. */
export const inFormOf = (doc: SessionDoc, d: Deliverable): SessionDoc => ({
  ...doc,
  format: { ...doc.format, ...fileFormOf(doc, d) },
});

/** Order of the channels in a printed file; one file a channel has none, and a model's channels are numbered as they are. */
export const orderOf = (doc: SessionDoc, d: Deliverable): ChannelOrder =>
  fileFormOf(doc, d).perChannel || admOf(doc, d) ? 'wav' : (d.order ?? 'wav');

export const isBus = (node: Track | Bus): node is Bus => 'kind' in node;

/** The first reference: what is heard, and what the brief's loudness is asked of. */
export const referenceOf = (doc: SessionDoc): Bus | undefined => doc.buses.find((b) => b.kind === 'reference');
export const referencesOf = (doc: SessionDoc): Bus[] => doc.buses.filter((b) => b.kind === 'reference');
export const stemsOf = (doc: SessionDoc): Bus[] => doc.buses.filter((b) => b.kind === 'stem');

/** The take whose sound a clip shows. */
export const takeOfClip = (doc: SessionDoc, clip: Clip): Take | undefined =>
  doc.tracks.flatMap((t) => t.takes).find((t) => t.media === clip.media);

/** The untouched copy of what a clip shows, sample for sample beside it; null where there is none. */
export const dryOf = (doc: SessionDoc, clip: Clip): string | null => takeOfClip(doc, clip)?.dryMedia ?? null;

/** Last sample that any clip touches. */
export const endOf = (doc: SessionDoc): number =>
  Math.max(0, ...doc.tracks.flatMap((t) => t.clips.map((c) => c.start + c.length)));
