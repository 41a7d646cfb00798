import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';

export const MEDIA = path.join(import.meta.dirname, 'media');
const at = (name: string) => path.join(MEDIA, name);

const sox = (...args: string[]) => execFileSync('sox', ['-D', '-R', ...args]);

/** Ten minutes of stereo that behaves like speech over an ambience; made once. */
export function programme(): string {
  mkdirSync(MEDIA, { recursive: true });
  const file = at('programme.wav');
  if (existsSync(file)) return file;
  // Brown noise in syllables and phrases, pink noise under it.
  sox(
    '-n',
    '-r',
    '48000',
    '-c',
    '2',
    '-b',
    '24',
    at('words.wav'),
    'synth',
    '600',
    'brownnoise',
    'synth',
    '600',
    'sine',
    'amod',
    '3.1',
    'tremolo',
    '0.17',
    '96',
    'vol',
    '0.5',
  );
  sox('-n', '-r', '48000', '-c', '2', '-b', '24', at('bed.wav'), 'synth', '600', 'pinknoise', 'vol', '0.02');
  sox('-m', at('words.wav'), at('bed.wav'), '-b', '24', file, 'norm', '-3');
  return file;
}

/** Ten minutes of stereo noise at full level: no stretch of it is quieter than another. */
export function fullNoise(): string {
  mkdirSync(MEDIA, { recursive: true });
  const file = at('noise.wav');
  if (!existsSync(file))
    sox('-n', '-r', '48000', '-c', '2', '-b', '24', file, 'synth', '600', 'whitenoise', 'vol', '0.999');
  return file;
}

/** An hour of stereo, made of the ten minutes. */
export function hour(): string {
  const file = at('hour.wav');
  if (!existsSync(file)) sox(...Array.from({ length: 6 }, () => programme()), file);
  return file;
}

/** A file's samples as raw interleaved 32-bit floats. */
export function rawFloats(from: string): string {
  const file = from.replace(/\.wav$/, '.f32');
  if (!existsSync(file)) sox(from, '-t', 'raw', '-e', 'floating-point', '-b', '32', file);
  return file;
}

/** Ten minutes of stereo at 44.1 kHz. */
export function at44(): string {
  const file = at('programme-44.wav');
  if (!existsSync(file)) sox(programme(), '-r', '44100', file);
  return file;
}

/** `count` mono files of two minutes, each different. */
export function monoTracks(count: number, seconds: number): string[] {
  mkdirSync(MEDIA, { recursive: true });
  return Array.from({ length: count }, (_, i) => {
    const file = at(`track-${seconds}-${i}.wav`);
    if (!existsSync(file)) {
      sox(
        '-n',
        '-r',
        '48000',
        '-c',
        '1',
        '-b',
        '24',
        file,
        'synth',
        String(seconds),
        i % 2 ? 'brownnoise' : 'pinknoise',
        'tremolo',
        String(0.3 + i * 0.07),
        '80',
        'norm',
        '-9',
      );
    }
    return file;
  });
}
