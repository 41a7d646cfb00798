import { lineId } from './lineIds';
import { layoutOf, widthOf, FRONT, type LayoutId } from '@/core/speakers';
import { defaultsOf, stageKind } from '@/core/stages';
import { R128 } from './limits';
import type {
  Bus,
  BusKind,
  Deliverable,
  Line,
  LineSheet,
  SessionDoc,
  SessionFormat,
  Settings,
  Stage,
  Track,
} from './document';

export const NAME_PATTERN = '{session}_{bus}_{layout}_{start}_v{version}';

export const NEW_SETTINGS: Settings = {
  listening: 'headphones',
  preRoll: 3,
  postRoll: 1,
  click: { when: 'never', sound: 'tick', level: -18 },
  countIn: 0,
  guides: 'dim',
  buffer: 'short',
  // Common practice, no source: three beeps one second apart, a streamer of two seconds, three seconds back.
  lead: { beeps: true, beepGap: 1, streamer: 2, flash: true },
  rollBack: 3,
};

export const NEW_SHEET: LineSheet = {
  position: '',
  kind: 'dynamic',
  phantom: false,
  pad: 0,
  inverted: false,
  lowCut: false,
  gain: 0,
};

export const NEW_TEMPO: SessionDoc['tempo'] = {
  tempos: [{ beat: 0, tempo: 120, glides: false }],
  meters: [{ bar: 1, beats: 4, value: 4 }],
};

/** A stage with its defaults. */
export function newStage(id: string, type: string, on?: boolean): Stage {
  const kind = stageKind(type);
  return { id, type, on: on ?? kind.startsOn, values: defaultsOf(kind) };
}

/** The voice chain a line starts with: low cut, gate, compressor (off). */
export const voiceChain = (prefix: string): Stage[] =>
  ['lowCut', 'gate', 'compressor'].map((type) => newStage(`${prefix}-${type}`, type));

/** Form of the documents that this release makes. */
export const DOC_VERSION = 5;

export function newTrack(id: string, name: string, layout: LayoutId, destination: string | null): Track {
  return {
    id,
    name,
    layout,
    destination,
    level: 0,
    muted: false,
    anchor: 'time',
    guide: false,
    placement: { ...FRONT },
    sends: [],
    chain: [],
    inputs: Array<null>(widthOf(layout)).fill(null),
    clips: [],
    takes: [],
  };
}

export function newBus(
  id: string,
  name: string,
  code: string,
  kind: BusKind,
  hue: number,
  layout: LayoutId,
  destination: string | null,
): Bus {
  return {
    id,
    name,
    code,
    kind,
    hue,
    layout,
    trim: 0,
    level: 0,
    muted: false,
    destination,
    sends: [],
    chain: [],
    rooms: 'shared',
    throughSolo: kind === 'return',
    placement: null,
    leftOut: [],
    linked: null,
  };
}

export function newLine(device: string, channel: number, name: string): Line {
  const id = lineId(device, channel);
  return { id, device, channel, name, chain: voiceChain(id), sheet: { ...NEW_SHEET }, record: 'both' };
}

/** Stems that a new voice session starts with. */
const START_STEMS = [
  ['dia', 'Dialogue', 'DI', 'DIA'],
  ['nar', 'Narration', 'NA', 'NAR'],
  ['mus', 'Music', 'MU', 'MUS'],
  ['efx', 'Effects', 'EF', 'EFX'],
  ['amb', 'Ambience', 'AM', 'AMB'],
] as const;

/** A session with five stems, the reference and their deliverables, and no tracks yet. */
export function newSession(name: string, code: string, format: SessionFormat): SessionDoc {
  layoutOf(format.layout);
  const deliverable = (bus: string, token: string): Deliverable => ({
    id: `print-${bus}`,
    bus,
    layout: format.layout,
    token,
  });
  return {
    version: DOC_VERSION,
    name,
    code,
    format,
    tracks: [],
    buses: [
      ...START_STEMS.map(([id, label, letters], hue) => newBus(id, label, letters, 'stem', hue, format.layout, 'ref')),
      newBus('ref', 'Reference', 'RE', 'reference', -1, format.layout, 'monitor'),
    ],
    lines: [],
    media: {},
    deliverables: [deliverable('ref', 'REF'), ...START_STEMS.map(([id, , , token]) => deliverable(id, token))],
    limits: R128,
    namePattern: NAME_PATTERN,
    range: { start: 0, end: 30 * format.sampleRate },
    picture: null,
    destinations: { mono: 'dia', stereo: 'efx', [format.layout]: 'amb' },
    tempo: structuredClone(NEW_TEMPO),
    cues: [],
    markers: [],
    lanes: {},
    shelf: [],
    settings: structuredClone(NEW_SETTINGS),
  };
}

/** Two letters for a name that no other code uses yet. */
export function codeFor(name: string, taken: readonly string[]): string {
  const letters = name.toUpperCase().replace(/[^A-Z0-9]/g, '') || 'ST';
  const pairs = [...letters.slice(1)].map((l) => letters[0] + l);
  const digits = Array.from({ length: 9 }, (_, i) => `${letters[0]}${i + 1}`);
  return [...pairs, ...digits].find((c) => !taken.includes(c)) ?? letters.slice(0, 2);
}
