// Spoken lines as ffmpeg reads and writes them.
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { type ListedCue, readSrt, readVtt, writeSrt, writeVtt } from '@/core/exchange';
import { folder, run } from './tools';

const dir = folder();
afterAll(() => void run('rm', '-rf', dir));

const cues: ListedCue[] = [
  { start: 1, end: 2.5, speaker: '', text: 'The keel is laid.' },
  { start: 3.04, end: 4, speaker: '', text: 'Wind & waves\nsecond line' },
  { start: 3600.96, end: 3661.12, speaker: '', text: '"Hard, to port!"' },
];

it.each([
  ['srt', 'vtt', writeSrt, readVtt],
  ['vtt', 'srt', writeVtt, readSrt],
] as const)('ffmpeg turns our .%s into .%s without loss', (from, to, write, read) => {
  const [a, b] = [path.join(dir, `a.${from}`), path.join(dir, `b.${to}`)];
  writeFileSync(a, write(cues));
  run('ffmpeg', '-v', 'error', '-y', '-i', a, b);
  const { value, notes } = read(readFileSync(b, 'utf8'));
  expect(notes).toEqual([]);
  expect(value).toEqual(cues);
});
