import type { LanePoint } from '@/core/lanes';
import type { Tap } from '@/core/paths';
import type { Stage } from '@/core/session';
import type { LayoutId, Placement } from '@/core/speakers';

/**
 * What the engine runs: nodes in processing order, each with its chain, its gain and links to later
 * nodes. Plain JSON, so that the same plan goes to the audio worklet, to a print and into tests.
 */
export interface Plan {
  sampleRate: number;
  nodes: PlanNode[];
}

/**
 * 'heard': what a performer hears of a line while something behind looks ahead; 'sum': the stems of a reference that are
 * limited together, looked at; 'linked': a stem with the gain that comes of it; 'key': what a detector listens to; 'fold': a
 * printed file that no bus has as it is; 'difference': by how much the stems of a reference differ from it; 'test',
 * 'speaker', 'ports': test signals, a loudspeaker of the room, its output.
 */
export type NodeKind =
  | 'audition'
  | 'line'
  | 'heard'
  | 'track'
  | 'bus'
  | 'key'
  | 'sum'
  | 'linked'
  | 'fold'
  | 'monitor'
  | 'ears'
  | 'head'
  | 'test'
  | 'speaker'
  | 'ports'
  | 'difference';

export interface PlanNode {
  id: string;
  kind: NodeKind;
  channels: number;
  /** Linear, before the chain; 1 where it is absent. */
  trim?: number;
  chain: Stage[];
  /** Linear, after the chain. */
  gain: number;
  links: PlanLink[];
  /** Samples by which the node's output is late against the timeline. */
  lead: number;
  /** Samples by which the node's own material waits for a key that comes late. */
  hold?: number;
  /** Node whose buffer a stage's detector listens to, by stage id. */
  keys?: Record<string, string>;
  lanes?: NodeLanes;
  /** Whether stems come together in it. */
  reference?: true;
  /** Loudness weights per channel, where loudness is followed: in the first reference. */
  weights?: number[];
  /** Return that this node is one room of. */
  of?: string;
  /** Bus whose file this node makes, where that is not the bus itself. */
  prints?: string;
}

/** What of a node follows the timeline, and by how many samples the sound that comes into it is late. */
export interface NodeLanes {
  late: number;
  /** dB, on top of the node's gain. */
  level?: LanePoint[];
  /** 1 sounds, 0 is silent. */
  sounds?: LanePoint[];
  /** By stage id. */
  stages?: Record<string, StageLane[]>;
}

export interface StageLane {
  param: string;
  points: LanePoint[];
  /** Goes straight in ratios. */
  log?: true;
}

/** What of a link follows the timeline, and by how many samples the sound that it gives is late. */
export interface LinkLanes {
  late: number;
  /** dB, on top of the link's gains. */
  level?: LanePoint[];
  /** Gains that follow a place; they take the part of the link's own. */
  place?: {
    base: Placement;
    moves: Partial<Record<keyof Placement, LanePoint[]>>;
    from: LayoutId;
    to: LayoutId;
    /** Linear, on all of them. */
    level: number;
    /** Gains from the channels of `to` to those of the node that the link leads to; none: they are the same. */
    onward?: number[][];
  };
}

/** Linear gain from a channel to a channel. */
export type PairGain = [from: number, to: number, gain: number];

export interface PlanLink {
  id: string;
  to: string;
  tap: Tap;
  /** Pairs of channels between which sound passes, in order of the first, then the second. */
  gains: PairGain[];
  /** Samples that bring it level with the latest other input of its target. */
  delay: number;
  /** Samples on top of that: a loudspeaker that stands nearer waits. */
  wait?: number;
  lanes?: LinkLanes;
}

/** Values of stages, and gains of places, are worked out at every such sample of the timeline. */
export const GRID = 64;

export { MONITOR as MONITOR_NODE } from '@/core/paths';
export const EARS = 'ears';
/** Clicks and beeps; leads to the monitor only. */
export const AUDITION = 'audition';
/** Loudspeakers as two ears hear them around a head. */
export const HEAD = 'head';
/** The monitor as it is listened to: in a narrower layout, encoded, decoded. */
export const HEARD_AS = 'heard-as';
/** Test signals, a channel for each loudspeaker of the room; leads to them only. */
export const TEST = 'test';
/** What the output of the room is given, port by port. */
export const PORTS = 'ports';
export const speakerNode = (label: string): string => `speaker/${label}`;
export const keyNode = (owner: string, stage: string): string => `key/${owner}/${stage}`;
export const foldNode = (deliverable: string): string => `fold/${deliverable}`;
/** What is heard of the lines of a track. */
export const heardNode = (track: string): string => `heard/${track}`;
/** A return as it is for one stem; null: for what belongs to none. */
export const roomNode = (bus: string, room: string | null): string => `${bus}@${room ?? ''}`;
/** What is left where a reference is taken off the sum of its stems. */
export const differenceNode = (reference: string): string => `difference/${reference}`;
export const linkedNode = (reference: string, stem: string): string => `linked/${reference}/${stem}`;

/** The stage that limits the stems of a reference together: its gain reduction is told under this id. */
export const linkedLimiter = (reference: string): string => `linked-limiter/${reference}`;

/** The pairs of a matrix [from][to] that are not zero. */
export const pairsOf = (matrix: readonly (readonly number[])[]): PairGain[] =>
  matrix.flatMap((row, from) => row.flatMap((gain, to): PairGain[] => (gain === 0 ? [] : [[from, to, gain]])));

/** Every channel to itself. */
export const through = (channels: number): PairGain[] =>
  Array.from({ length: channels }, (_, c): PairGain => [c, c, 1]);

/** The node that gives the file of a bus. */
export const printNode = (plan: Plan, bus: string): PlanNode | undefined =>
  plan.nodes.find((n) => n.prints === bus) ?? plan.nodes.find((n) => n.id === bus);
