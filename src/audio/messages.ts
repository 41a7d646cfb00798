import type { Audition, Loop, Plan } from '@/core/engine';
import type { SignalKind } from '@/core/signals';
import type { RingMemory } from './ring';
import type { TakeMemory } from './takeRing';
import type { FoldFrame } from './worklets/foldMeasure';
import type { ProbeReading } from './worklets/probe';

/** Where a line's samples arrive in the worklet: which input, which channel of it. */
export interface LineSource {
  line: string;
  slot: number;
  channel: number;
}

/** A track that is recorded: its lines in channel order, and the ring for processed + dry channels. */
export interface RecordTap {
  track: string;
  lines: string[];
  ring: TakeMemory;
  /** Lines whose untouched sound stands in the place of the processed one, by channel. */
  untouched?: boolean[];
  /** Samples by which the chains delay; the dry copy is delayed alike. */
  delay: number;
  /** Recorded from this frame of the roll on, and until this one (open: until stopped). */
  from: number;
  to: number | null;
  /** Recorded for so long yet when it is ended by hand: for the crossfade, and because its sound comes late. */
  after?: number;
}

/** What may be recorded by hand: its sound is held back, so that a take has some before its beginning. */
export type StandbyTap = Pick<RecordTap, 'track' | 'lines' | 'untouched' | 'delay'> & { frames: number };

/** Test signals by channel of the room's loudspeakers. */
export interface TestSound {
  parts: { channel: number; signal: SignalKind }[];
  /** Ends by itself after so many frames. */
  frames?: number;
  /** Comes and goes within 10 ms, as what sounds on does; a burst has edges of its own. */
  glides: boolean;
}

export type ToEngine =
  /** `serial`: told back when it is at work. */
  | { kind: 'plan'; plan: Plan; lines: LineSource[]; serial: number }
  | { kind: 'tracks'; rings: { track: string; ring: RingMemory }[] }
  /** `from`: sample of the timeline of the first frame; lanes go round where the sound does. */
  | { kind: 'roll'; from: number; loop: Loop | null; taps: RecordTap[]; auditions: Audition[] }
  /** Where it stands while nothing rolls. */
  | { kind: 'place'; at: number }
  /** More takes while rolling: rounds of a loop. */
  | { kind: 'taps'; taps: RecordTap[] }
  /** Recording begins now, on these taps; or ends now, on those that are open. */
  | { kind: 'punch'; taps: RecordTap[] }
  | { kind: 'punchOut' }
  /** Tracks whose latest sound is kept while rolling, in place of those before. */
  | { kind: 'standby'; taps: StandbyTap[] }
  | { kind: 'stop' }
  /** `id` comes back with the frame at which it began to sound. */
  | { kind: 'test'; sound: TestSound | null; id: number }
  | { kind: 'capture'; node: string; frames: number }
  /** Sends what arrives on a device's lines, untouched, until told otherwise (null). */
  | { kind: 'listen'; slot: number | null }
  /** Looks at a chain for its drawing; null: at none. */
  | { kind: 'watch'; node: string | null; stage: string | null };

export interface MeterFrame {
  /** Frames rolled since the start. */
  rolled: number;
  /** Frame of the sound's clock to which they lead. */
  at: number;
  /** Blocks without sound because the feeder was late. */
  misses: number;
  /** Per node id: peaks before the chain and after the gain, per channel, linear. */
  peaks: Record<string, { before: number[]; after: number[] }>;
  /** Peak per slot and channel of the open devices, linear. */
  inputs: number[][];
  /** Gain reduction per stage id, dB. */
  reductions: Record<string, number>;
  /** New weighted mean squares of the reference, 100 ms each. */
  hops: number[];
  /** Which measure they come from: another one when the reference's layout changed. */
  measures: number;
  /** Largest true peak of the reference since rolling began, linear. */
  truePeak: number;
  /** What is heard in something narrower than the mix; null: the monitor is heard as it is mixed. */
  fold: FoldFrame | null;
  probe?: ProbeReading;
}

export type FromEngine =
  | { kind: 'meters'; frame: MeterFrame }
  /** A plan is at work from this frame of the roll on; -1 while nothing rolls. */
  | { kind: 'loaded'; serial: number; rolled: number }
  | { kind: 'stopped'; rolled: number }
  /** Frame of the roll at which recording began or ended by hand; frames that were kept from before, by track. */
  | { kind: 'punched'; way: 'in' | 'out'; at: number; before: Record<string, number> }
  | { kind: 'captured'; channels: Float32Array[] }
  /** A test signal began at this frame of the sound's clock. */
  | { kind: 'testing'; id: number; at: number }
  /** `at`: frame of the sound's clock of the first sample. */
  | { kind: 'heard'; slot: number; channels: Float32Array[]; at: number };

export type ToFeeder =
  | {
      kind: 'start';
      session: string;
      position: number;
      rings: { track: string; ring: RingMemory }[];
      tracks: import('@/core/session').Track[];
      /** Files whose channels stand in an order of their own. */
      media: import('@/core/session').SessionDoc['media'];
      generation: number;
      loop: { start: number; end: number } | null;
      /** What the server does not give is left silent. */
      unheard: boolean;
    }
  | { kind: 'tracks'; tracks: import('@/core/session').Track[]; media: import('@/core/session').SessionDoc['media'] }
  | { kind: 'stop' };

export type FromFeeder = { kind: 'ready'; generation: number } | { kind: 'trouble'; message: string };
