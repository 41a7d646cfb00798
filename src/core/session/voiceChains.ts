import { newStage } from './create';
import type { Stage } from './document';
import type { StageValues } from '@/core/stages';

/** A chain to begin with for a voice; described by what it does. Values are common practice, no source. */
export interface VoiceChain {
  name: string;
  category: string;
  note: string;
  stages: readonly (readonly [type: string, on: boolean, values?: StageValues])[];
}

export const VOICE_CHAINS: readonly VoiceChain[] = [
  {
    name: 'Close voice, quiet room',
    category: 'voice',
    note: 'Takes rumble and breath noise off, holds sharp s, evens out gently.',
    stages: [
      ['lowCut', true, { frequency: 70 }],
      ['gate', true],
      ['eq', false],
      ['deEsser', true],
      ['compressor', true, { threshold: -20, ratio: 2.5 }],
    ],
  },
  {
    name: 'Voice at arm’s length',
    category: 'voice',
    note: 'Less low end to take off, no gate: the room belongs to it.',
    stages: [
      ['lowCut', true, { frequency: 80 }],
      ['eq', true, { f1: 250, g1: -2, q1: 1, f2: 3200, g2: 1.5, q2: 0.9 }],
      ['compressor', true, { threshold: -24, ratio: 2 }],
    ],
  },
  {
    name: 'Shouting and whispering',
    category: 'dialogue',
    note: 'Firm compression for lines of very different loudness, a limiter behind it.',
    stages: [
      ['lowCut', true, { frequency: 70 }],
      ['compressor', true, { threshold: -26, ratio: 4 }],
      ['limiter', true],
    ],
  },
  {
    name: 'Low cut only',
    category: 'dialogue',
    note: 'Nothing that cannot be undone: the mix decides.',
    stages: [['lowCut', true, { frequency: 70 }]],
  },
];

/** The stages of a voice chain with ids that begin with `prefix`. */
export const stagesOf = (chain: VoiceChain, prefix: string): Stage[] =>
  chain.stages.map(([type, on, values], i) => {
    const stage = newStage(`${prefix}-${type}-${i}`, type, on);
    return { ...stage, values: { ...stage.values, ...values } };
  });
