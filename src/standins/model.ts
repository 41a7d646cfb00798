/** One line of a simulated device. */
export interface StandinLine {
  name: string;
  /** File under /standins that is looped; null: only noise. */
  sound: string | null;
  /** dB applied to the sound, and peak level of the line's own noise in dBFS. */
  gain: number;
  noise: number;
}

export interface StandinDevice {
  id: string;
  name: string;
  lines: StandinLine[];
}

/** Chosen like real devices. What they hear is the demo scenario's. */
export const STANDINS: readonly StandinDevice[] = [
  {
    id: 'standin-usb',
    name: 'USB microphone (stand-in)',
    lines: [{ name: 'USB mic', sound: 'narrator.flac', gain: -1, noise: -66 }],
  },
  {
    id: 'standin-eight',
    name: 'Eight-line interface (stand-in)',
    lines: [
      { name: 'Booth near', sound: 'narrator.flac', gain: 0, noise: -68 },
      { name: 'Table left', sound: 'pilot.flac', gain: -1, noise: -64 },
      { name: 'Table right', sound: 'apprentice.flac', gain: -2, noise: -64 },
      { name: 'Room', sound: null, gain: 0, noise: -58 },
      { name: 'Booth far', sound: 'narrator.flac', gain: -14, noise: -62 },
      { name: 'Window', sound: 'pilot.flac', gain: -18, noise: -60 },
      { name: 'Spare 7', sound: null, gain: 0, noise: -90 },
      { name: 'Spare 8', sound: null, gain: 0, noise: -90 },
    ],
  },
];
