// Lines of JSON of the benches as a table, and with --write as docs/benchmarks.md.
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import path from 'node:path';

interface Case {
  case: string;
  reference: string;
  ours?: number;
  theirs?: number;
  ratio?: number;
  /** Where a number of tracks is counted and nothing is raced. */
  tracks?: number;
  gaps?: number;
  /** A figure by itself, with whether it meets the aim. */
  figure?: string;
  met?: boolean;
  aim: number | string;
  peakMemoryMB?: number;
}

const lines = readFileSync(process.argv[2]!, 'utf8').trim().split('\n');
const cases = lines.filter((l) => l.startsWith('{')).map((l) => JSON.parse(l) as Case);
const rows = cases.map((c) => {
  const met = c.met ?? (c.tracks === undefined ? c.ratio! >= Number(c.aim) : c.tracks >= Number(c.aim) && c.gaps === 0);
  const own = c.figure ?? (c.tracks === undefined ? null : `${c.tracks} tracks`);
  const figures = own === null ? `${c.ours} s | ${c.theirs} s | **${c.ratio}**` : `**${own}** | – | –`;
  return `| ${c.case} | ${c.reference} | ${figures} | ${c.aim} | ${met ? 'met' : 'short'} |`;
});
const table = [
  '| Case | Against | Ours | Theirs | Ratio | Aim | |',
  '| --- | --- | --- | --- | --- | --- | --- |',
  ...rows,
].join('\n');
console.log(table);

const notes = path.join(import.meta.dirname, 'notes.md');
if (process.argv.includes('--write'))
  writeFileSync(
    path.join(import.meta.dirname, '../docs/benchmarks.md'),
    `# Benchmarks\n\n\`npm run bench\` makes its material (kept in bench/media), runs each case and its reference in turn on the same machine, several times, and takes the median of each. A ratio above one: ours is faster. Times are from file to figures or from file to file, start of the reference program included.\n\nLast run: ${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpus()[0]?.model}, Node ${process.version}.\n\n${table}\n\n${readFileSync(notes, 'utf8')}`,
  );
