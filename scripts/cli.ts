import 'reflect-metadata';
import { access } from 'node:fs/promises';
import path from 'node:path';
import { Command } from 'commander';
import { pathAudit, printCheck } from '@/core/checks';
import { measureFile, type FileFacts } from '@/core/measure';
import { mediaPath } from '@/server/config';
import { closeDatabase, openDatabase } from '@/server/database';
import { newKernels } from '@/server/kernels';
import { FileSource, mediaOf } from '@/server/media';
import { runPrint } from '@/server/prints';
import { listSessions, openSession } from '@/server/sessions';
import { formatDb, formatDuration } from '@/core/units';

// Not finite numbers have no form in JSON: silence is null.
const figure = (v: number): number | null => (Number.isFinite(v) ? Math.round(v * 100) / 100 : null);

const plain = ({ hops: _hops, ...f }: FileFacts) => ({
  ...f,
  integrated: figure(f.integrated),
  range: figure(f.range),
  maxMomentary: figure(f.maxMomentary),
  maxShortTerm: figure(f.maxShortTerm),
  truePeak: figure(f.truePeak),
  samplePeak: figure(f.samplePeak),
  longestSilence: figure(f.longestSilence),
});

async function measure(files: string[], options: { json?: boolean }): Promise<void> {
  const k = newKernels();
  const results: object[] = [];
  for (const file of files) {
    try {
      const source = await FileSource.open(file);
      const facts = await measureFile(k, source).finally(() => source.close());
      results.push({ file, ...plain(facts) });
      if (!options.json) {
        console.log(
          `${file}: ${facts.layout}, ${facts.sampleRate} Hz, ${facts.bits} bit, ${formatDuration(facts.seconds)}, ${formatDb(facts.integrated)} LUFS, ${formatDb(facts.range)} LU, ${formatDb(facts.truePeak)} dBTP`,
        );
      }
    } catch (error) {
      process.exitCode = 1;
      results.push({ file, error: (error as Error).message });
      if (!options.json) console.error(`${file}: ${(error as Error).message}`);
    }
  }
  if (options.json) console.log(JSON.stringify(results, null, 2));
}

async function sessionOf(id: string) {
  await openDatabase();
  const found = (await listSessions()).find((s) => s.id === id || s.name === id);
  if (!found) throw new Error(`There is no session "${id}" in this data folder.`);
  return openSession(found.id);
}

async function print(id: string, options: { out: string; json?: boolean; version: string }): Promise<void> {
  const session = await sessionOf(id);
  const media = Object.fromEntries((await mediaOf(session.id)).map((m) => [m.id, mediaPath(session.id, m.file)]));
  for (const file of Object.values(media)) await access(file);
  const out = path.resolve(options.out);
  const proof = await runPrint(
    newKernels(),
    {
      doc: session.doc,
      media,
      range: session.doc.range,
      version: Number(options.version),
      out,
      made: new Date().toISOString(),
    },
    () => {},
  );
  if (options.json) {
    console.log(JSON.stringify(proof, null, 2));
    return;
  }
  for (const f of proof.files) {
    console.log(
      `${f.file}: ${formatDb(f.facts.integrated)} LUFS, ${formatDb(f.facts.truePeak)} dBTP, ${f.findings.length ? f.findings.map((x) => x.text).join('; ') : 'as agreed'}`,
    );
  }
  if (proof.sum)
    console.log(
      `Stems against reference: ${formatDb(proof.sum.difference)} dBFS. ${proof.sum.equal ? 'They add up.' : proof.sum.reasons.join('; ')}`,
    );
}

async function check(id: string): Promise<void> {
  const { doc } = await sessionOf(id);
  const found = [...pathAudit(doc), ...printCheck(doc)];
  for (const c of found) console.log(`${c.grade}: ${c.title}. ${c.why}`);
  if (found.some((c) => c.grade === 'stop')) process.exitCode = 1;
  else if (found.length === 0) console.log('No findings.');
}

const program = new Command('wide-room').description('Measure files, print and check sessions without a browser.');
program
  .command('measure <files...>')
  .description('format, loudness, true peak, range and silence of WAV files')
  .option('--json')
  .action(measure);
program
  .command('print <session>')
  .description('print all deliverables of a session in one pass, with proof')
  .requiredOption('--out <dir>')
  .option('--version <n>', 'version in the file names', '1')
  .option('--json')
  .action(print);
program.command('check <session>').description('path audit and print check').action(check);
program
  .parseAsync()
  .catch((error: Error) => {
    console.error(error.message);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
