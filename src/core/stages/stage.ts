import type { Kernels } from '@/core/kernels';

/** One adjustable value of a stage; the interface draws its field from this. */
export interface StageParam {
  id: string;
  label: string;
  unit: string;
  min: number;
  max: number;
  default: number;
  /** Smallest sensible step; also the arrow keys'. */
  step: number;
  digits: number;
  /** Dragging moves in ratios instead of differences. */
  log?: boolean;
}

export type StageValues = Record<string, number>;

/** A stage set up for one rate and width. Switching off keeps the delay, so nothing else moves. */
export interface StageRunner {
  /** Takes new values; `on` false makes it transparent. Changes glide. */
  set(values: StageValues, on: boolean): void;
  /** Processes `n` samples of all channels in place; `chans` is a table of addresses. */
  run(chans: number, n: number): void;
  /** Deepest gain reduction in dB (<= 0) since the last call; null for a stage that has none. */
  reduction(): number | null;
  free(): void;
}

export interface StageKind {
  type: string;
  name: string;
  params: readonly StageParam[];
  presets: readonly { name: string; values: StageValues }[];
  /** Whether a new stage of this kind is switched on. */
  startsOn: boolean;
  /** Delay in samples, whether on or off. */
  delay(values: StageValues, rate: number): number;
  /** The few figures that tell its setting in one line. */
  summary(values: StageValues): string;
  create(k: Kernels, rate: number, channels: number): StageRunner;
  /** Magnitude in dB at `freqs` (Hz), for filters. */
  response?(k: Kernels, rate: number, values: StageValues, freqs: readonly number[]): number[];
  /** Output level in dB for each input level in dB, for dynamics. */
  transfer?(k: Kernels, values: StageValues, levels: readonly number[]): number[];
}

export const defaultsOf = (kind: StageKind): StageValues =>
  Object.fromEntries(kind.params.map((p) => [p.id, p.default]));

/** A parameter's value, or its default where a document lacks it. */
export function valueOf(kind: StageKind, values: StageValues, id: string): number {
  const given = values[id];
  if (given !== undefined) return given;
  const param = kind.params.find((p) => p.id === id);
  if (!param) throw new RangeError(`stage "${kind.type}" has no parameter "${id}"`);
  return param.default;
}
