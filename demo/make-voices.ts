// Speaks the script with free synthetic voices (flite) and packs it as FLAC at the voices' own rate.
// Run by hand after the script changed: npx tsx demo/make-voices.ts. Needs flite, sox and flac.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { CHARACTERS, SCRIPT } from './script';

const VOICES = { Narrator: ['slt', '1.12'], Pilot: ['awb', '1.05'], Apprentice: ['rms', '0.98'] } as const;
const GAP_SECONDS = 0.6;
const out = path.join(import.meta.dirname, 'lines');
const tmp = mkdtempSync(path.join(tmpdir(), 'voices-'));
const run = (command: string, ...args: string[]) => execFileSync(command, args, { encoding: 'utf8' });

const index: Record<string, { line: number; from: number; frames: number }[]> = {};
for (const character of CHARACTERS) {
  const [voice, stretch] = VOICES[character];
  const parts: string[] = [];
  let from = 0;
  index[character] = [];
  SCRIPT.forEach((line, i) => {
    if (line.character !== character) return;
    const spoken = path.join(tmp, `${i}.wav`);
    const clean = path.join(tmp, `${i}-clean.wav`);
    run('flite', '-voice', voice, '--setf', `duration_stretch=${stretch}`, '-t', line.text, '-o', spoken);
    // These voices carry a little direct current; speech starts well above 60 Hz.
    run('sox', '-D', spoken, clean, 'highpass', '60', 'norm', '-8', 'pad', '0.05', String(GAP_SECONDS));
    const frames = Number(run('soxi', '-s', clean));
    index[character]!.push({ line: i, from, frames });
    from += frames;
    parts.push(clean);
  });
  const joined = path.join(tmp, `${character}.wav`);
  run('sox', '-D', ...parts, joined);
  run('flac', '--silent', '--force', '--best', '-o', path.join(out, `${character.toLowerCase()}.flac`), joined);
}
writeFileSync(path.join(out, 'index.json'), `${JSON.stringify(index, null, 1)}\n`);
