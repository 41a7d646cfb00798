import type { LineSheet } from '@/core/session';
import { TWELVE_PORTS } from './room';

/** One line of a simulated device: what it hears, and how the device stands when it is switched on. */
export interface StandinLine {
  name: string;
  /** File under /standins that is looped; null: only noise. */
  sound: string | null;
  /** dB applied to the sound at the gain of `sheet`, and peak level of the line's own noise in dBFS there. */
  gain: number;
  noise: number;
  sheet: LineSheet;
  /** Faults of the cable: mains hum (dBFS peak at 50 Hz) and a constant part (share of full scale). */
  hum?: number;
  offset?: number;
  /** A steady tone of this many Hz at `gain` dBFS. */
  tone?: number;
}

export interface StandinDevice {
  id: string;
  name: string;
  /** Gain, pad, phantom power and polarity can be set from here. */
  settable: boolean;
  /** Sends its lines over two links, with a clock of its own if wanted. */
  networked?: boolean;
  /** Parts per million by which its own clock is fast. */
  ppm?: number;
  /** A cable from this computer's output back to its input, so many samples late. */
  loop?: number;
  /** A simulated room that this computer sounds into through so many ports; its line is the measuring microphone. */
  ports?: number;
  lines: StandinLine[];
}

/** The stand-in that a room can play through. */
export const ROOM_STANDIN = 'standin-room';

const sheet = (part: Partial<LineSheet>): LineSheet => ({
  position: '',
  kind: 'dynamic',
  phantom: false,
  pad: 0,
  inverted: false,
  lowCut: false,
  gain: 38,
  ...part,
});

/** Lines of a stage box; a browser's audio node has no more channels. */
const BOX_LINES = 32;

/** Many microphones around a room: all hear the voices, softer the farther they stand, over their own noise. */
const stageBox = (letter: 'A' | 'B'): StandinDevice => ({
  id: `standin-box-${letter.toLowerCase()}`,
  name: `Stage box ${letter}, 32 lines (stand-in)`,
  settable: true,
  lines: Array.from({ length: BOX_LINES }, (_, i): StandinLine => {
    const voice = ['narrator.flac', 'pilot.flac', 'apprentice.flac'][i % 3]!;
    return {
      name: `${letter} ${i + 1}`,
      sound: voice,
      gain: -6 - (i % 8) * 2,
      noise: -66,
      sheet: sheet({ position: `row ${1 + Math.floor(i / 8)}, place ${1 + (i % 8)}` }),
    };
  }),
});

type ConsoleSource = Pick<StandinLine, 'name' | 'sound' | 'gain' | 'noise'>;

/** A console: its mix on the first two channels, the first source before its fader on the third, then its sources and a tone. */
function console(id: string, name: string, ppm: number, sources: readonly ConsoleSource[]): StandinDevice {
  const line = (source: ConsoleSource): StandinLine => ({ ...source, sheet: sheet({ kind: 'line', gain: 0 }) });
  const made = (what: string) => line({ name: what, sound: null, gain: 0, noise: -90 });
  return {
    ...{ id, name, settable: false, networked: true, ppm },
    lines: [
      ...['Mix left', 'Mix right', `${sources[0]!.name} direct`].map(made),
      ...sources.map(line),
      // Common practice, no source: a steady tone for line-up, 18 dB under full scale.
      { ...line({ name: 'Tone', sound: null, gain: -18, noise: -Infinity }), tone: 1000 },
    ],
  };
}

/** Chosen like real devices. What they hear is the demo scenario's. */
export const STANDINS: readonly StandinDevice[] = [
  {
    id: 'standin-usb',
    name: 'USB microphone (stand-in)',
    settable: false,
    lines: [{ name: 'USB mic', sound: 'narrator.flac', gain: -1, noise: -66, sheet: sheet({ gain: 0, kind: 'line' }) }],
  },
  {
    id: 'standin-eight',
    name: 'Eight-line interface (stand-in)',
    settable: true,
    lines: [
      {
        name: 'Booth near',
        sound: 'narrator.flac',
        gain: 0,
        noise: -68,
        sheet: sheet({ kind: 'condenser', phantom: true, position: 'booth, 15 cm' }),
      },
      { name: 'Table left', sound: 'pilot.flac', gain: -1, noise: -64, sheet: sheet({ position: 'table, left seat' }) },
      {
        name: 'Table right',
        sound: 'apprentice.flac',
        gain: -2,
        noise: -64,
        sheet: sheet({ position: 'table, right seat' }),
      },
      { name: 'Room', sound: null, gain: 0, noise: -58, sheet: sheet({ kind: 'condenser', position: 'ceiling' }) },
      {
        name: 'Booth far',
        sound: 'narrator.flac',
        gain: -14,
        noise: -62,
        sheet: sheet({ kind: 'condenser', phantom: true, position: 'booth, 1.5 m' }),
      },
      { name: 'Window', sound: 'pilot.flac', gain: -18, noise: -60, sheet: sheet({ position: 'window sill' }) },
      { name: 'Spare 7', sound: null, gain: 0, noise: -90, hum: -46, sheet: sheet({}) },
      { name: 'Spare 8', sound: null, gain: 0, noise: -90, offset: 0.02, sheet: sheet({}) },
    ],
  },
  {
    id: 'standin-loop',
    name: 'Loop cable (stand-in)',
    settable: false,
    loop: 1234,
    lines: ['left', 'right'].map((side): StandinLine => ({
      name: `Loop ${side}`,
      sound: null,
      gain: 0,
      noise: -Infinity,
      sheet: sheet({ kind: 'line', gain: 0 }),
    })),
  },
  {
    id: ROOM_STANDIN,
    name: 'Twelve-port monitor (stand-in)',
    settable: false,
    ports: TWELVE_PORTS,
    lines: [
      {
        name: 'Measuring mic',
        sound: null,
        gain: 0,
        noise: -Infinity,
        sheet: sheet({ kind: 'line', gain: 0, position: 'at the seat' }),
      },
    ],
  },
  console('standin-console', 'Networked console (stand-in)', 40, [
    { name: 'Booth', sound: 'narrator.flac', gain: -2, noise: -70 },
    { name: 'Pilot', sound: 'pilot.flac', gain: -3, noise: -68 },
    { name: 'Apprentice', sound: 'apprentice.flac', gain: -3, noise: -68 },
    ...['Left', 'Right', 'Centre', 'LFE', 'Left surround', 'Right surround'].map((side) => ({
      ...{ name: `Hall ${side.toLowerCase()}`, sound: null, gain: 0 },
      noise: side === 'LFE' ? -90 : -52,
    })),
    ...[13, 14, 15].map((n) => ({ name: `Spare ${n}`, sound: null, gain: 0, noise: -96 })),
  ]),
  console('standin-desk', 'Network sender, second desk (stand-in)', -25, [
    { name: 'Pilot, desk', sound: 'pilot.flac', gain: -8, noise: -66 },
    { name: 'Apprentice, desk', sound: 'apprentice.flac', gain: -8, noise: -66 },
    ...[6, 7].map((n) => ({ name: `Desk spare ${n}`, sound: null, gain: 0, noise: -92 })),
  ]),
  stageBox('A'),
  stageBox('B'),
];

/** What a line gives under its settings: gain of its sound and noise, and what stays of the noise without supply. */
export function lineGain(line: StandinLine, now: LineSheet): { sound: number; noise: number; sign: 1 | -1 } {
  const change = now.gain - line.sheet.gain + now.pad;
  // A condenser without phantom power gives nothing; the preamplifier's own noise stays.
  const alive = line.sheet.kind !== 'condenser' || now.phantom;
  return {
    sound: alive ? line.gain + change : -Infinity,
    noise: alive ? line.noise + change : Math.min(line.noise, -96) + Math.max(0, change),
    sign: now.inverted ? -1 : 1,
  };
}
