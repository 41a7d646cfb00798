import { create } from 'zustand';
import type { Check } from '@/core/checks';
import type { RecordMode, RecordPlan } from '@/core/session';

export type RollState = 'stopped' | 'starting' | 'playing' | 'recording';

interface Transport {
  state: RollState;
  /** Where it stands, or where rolling began; samples. */
  position: number;
  misses: number;
  /** Findings that keep recording from starting, until mended or overridden. */
  asked: Check[] | null;
  /** What a press of record means. */
  mode: RecordMode;
  /** What is being recorded; null while nothing is. */
  plan: RecordPlan | null;
}

export const useTransport = create<Transport>(() => ({
  state: 'stopped',
  position: 0,
  misses: 0,
  asked: null,
  mode: 'free',
  plan: null,
}));
