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
