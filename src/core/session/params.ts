import { choiceParam, type StageParam } from '@/core/stages';

/**
 * A value that is set by hand, described once: edits check it, fields show it, and nothing else holds its limits. Limits of
 * levels are common practice, no source.
 */
export type Param = StageParam;

const level = (id: string, label: string, max: number, start = 0, step = 0.1): Param => ({
  id,
  label,
  unit: 'dB',
  min: -100,
  max,
  default: start,
  step,
  digits: 1,
});

const angle = (id: string, label: string, min: number, max: number, start: number): Param => ({
  id,
  label,
  unit: '°',
  min,
  max,
  default: start,
  step: 1,
  digits: 0,
});

export const MUTED = choiceParam('muted', 'Mute', ['sounds', 'muted']);

export const CLICK_PARAMS = { level: { ...level('level', 'Click level', 0, -18), min: -60 } } as const;

export const TRACK_PARAMS = { level: level('level', 'Level', 24) } as const;

export const BUS_PARAMS = {
  trim: { ...level('trim', 'Trim', 24), min: -24 },
  level: level('level', 'Level', 24),
} as const;

export const SEND_PARAMS = { level: level('level', 'Send', 12) } as const;

export const CLIP_PARAMS = { gain: level('gain', 'Gain', 24) } as const;

export const MONITOR_PARAMS = { level: level('level', 'Monitor level', 12, -12, 0.5) } as const;

export const PLACEMENT_PARAMS = {
  azimuth: angle('azimuth', 'Azimuth', -180, 180, 0),
  elevation: angle('elevation', 'Elevation', -90, 90, 0),
  distance: { id: 'distance', label: 'Distance', unit: '', min: 0, max: 1, default: 1, step: 0.05, digits: 2 },
  width: angle('width', 'Width', 0, 180, 0),
  spread: angle('spread', 'Spread', 0, 180, 0),
  lfe: level('lfe', 'LFE', 12, -100),
} as const satisfies Record<string, Param>;

export const LINKED_PARAMS = {
  ceiling: { id: 'ceiling', label: 'Ceiling', unit: 'dB', min: -24, max: 0, default: -1, step: 0.1, digits: 1 },
  release: {
    id: 'release',
    label: 'Release',
    unit: 'ms',
    min: 10,
    max: 1000,
    default: 80,
    step: 5,
    digits: 0,
    log: true,
  },
} as const satisfies Record<string, Param>;

export const SHEET_PARAMS = {
  pad: { id: 'pad', label: 'Pad', unit: 'dB', min: -40, max: 0, default: 0, step: 1, digits: 0 },
  gain: { id: 'gain', label: 'Gain', unit: 'dB', min: -20, max: 80, default: 0, step: 0.5, digits: 1 },
} as const satisfies Record<string, Param>;

export const inLimits = (param: Param, value: number): boolean =>
  Number.isFinite(value) && value >= param.min && value <= param.max;
