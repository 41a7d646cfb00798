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
  /** Values of one group stand together. */
  group?: string;
  /** The value is the index of one of these. */
  choices?: readonly string[];
}

/** A value that picks one of `choices`. */
export const choiceParam = (id: string, label: string, choices: readonly string[], start = 0): StageParam => ({
  id,
  label,
  unit: '',
  min: 0,
  max: choices.length - 1,
  default: start,
  step: 1,
  digits: 0,
  choices,
});

/** Whether channels share one gain, or each has its own. */
export const linkParam = choiceParam('link', 'Channels', ['each alone', 'linked'], 1);

/** What the detectors of a stage listen to instead of its own input: one channel, or one for each. */
export interface Key {
  table: number;
  channels: number;
}

export type StageValues = Record<string, number>;

/** A stage set up for one rate and width. Switching off keeps the delay, so nothing else moves. */
export interface StageRunner {
  /** Takes new values; `on` false makes it transparent. Changes glide. */
  set(values: StageValues, on: boolean): void;
  /** Processes `n` samples of all channels in place; `chans` is a table of addresses. */
  run(chans: number, n: number, key?: Key | null): void;
  /** For a plain cascade of filters: the sections of each channel as they are now (kernel addresses). */
  sections?(channel: number): readonly number[];
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
  /** Whether another track or bus may be given as its key (external side-chain). */
  takesKey?: boolean;
  /** Seconds it sounds on after its input has ended. */
  tail?(values: StageValues): number;
  /** The few figures that tell its setting in one line. */
  summary(values: StageValues): string;
  create(k: Kernels, rate: number, channels: number): StageRunner;
  /** Magnitude in dB at `freqs` (Hz), for filters. */
  response?(k: Kernels, rate: number, values: StageValues, freqs: readonly number[]): number[];
  /** Complex response [real, imaginary] at `freqs` (Hz), for filters. */
  complex?(k: Kernels, rate: number, values: StageValues, freqs: readonly number[]): [number, number][];
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
