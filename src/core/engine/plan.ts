import type { Stage } from '@/core/session';

/**
 * What the engine runs: nodes in processing order, each with its chain, its gain and links to later
 * nodes. Plain JSON, so that the same plan goes to the audio worklet, to a print and into tests.
 */
export interface Plan {
  sampleRate: number;
  nodes: PlanNode[];
}

export type NodeKind = 'audition' | 'line' | 'track' | 'bus' | 'key' | 'fold' | 'monitor' | 'ears';

export interface PlanNode {
  id: string;
  kind: NodeKind;
  channels: number;
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
  /** Loudness weights per channel, where loudness is followed. */
  weights?: number[];
}

export interface PlanLink {
  to: string;
  /** Linear, [from channel][to channel]. */
  gains: number[][];
  /** Samples that bring it level with the latest other input of its target. */
  delay: number;
}

export const EARS = 'ears';
/** Clicks and beeps; leads to the monitor only. */
export const AUDITION = 'audition';
export const keyNode = (stage: string): string => `key/${stage}`;
export const foldNode = (deliverable: string): string => `fold/${deliverable}`;
