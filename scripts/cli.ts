import 'reflect-metadata';
import { access, readFile, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import { Command } from 'commander';
import { pathAudit, printCheck } from '@/core/checks';
import { measureStream, type FileFacts } from '@/core/measure';
import { mediaPath } from '@/server/config';
import { closeDatabase, openDatabase } from '@/server/database';
import { newKernels } from '@/server/kernels';
import { convertAudio, FileSource, formatKept, mediaOf, openAudio } from '@/server/media';
import { runPrint } from '@/server/prints';
import { listSessions, openSession } from '@/server/sessions';
import {
  type Cue,
  cuesOf,
  type Read,
  readCueList,
  readEdl,
  readOtio,
  readSrt,
  readVtt,
  sessionTimeline,
  type Timeline,
  writeCueList,
  writeEdl,
  writeOtio,
  writeSrt,
  writeVtt,
} from '@/core/exchange';
import { formatDb, formatDuration, FRAME_RATES, frameRate, timecodeToFrames } from '@/core/units';

// Not finite numbers have no form in JSON: silence is null.
const figure = (v: number): number | null => (Number.isFinite(v) ? Math.round(v * 100) / 100 : null);

const rounded = (value: unknown): unknown =>
  typeof value === 'number'
    ? figure(value)
    : Array.isArray(value)
      ? value.map(rounded)
      : value && typeof value === 'object'
        ? Object.fromEntries(Object.entries(value).map(([key, v]) => [key, rounded(v)]))
        : value;

const plain = ({ hops: _hops, levels, ...facts }: FileFacts) => ({
  ...(rounded(facts) as object),
  // A mean near zero would be lost in hundredths.
  levels: levels?.map(({ dc, ...l }) => ({ ...(rounded(l) as object), dc: Number(dc.toFixed(6)) })),
});

/** What went wrong, for a reader who is no programmer. */
function sentence(error: Error & { code?: string; path?: string }): string {
  if (error.code === 'ENOENT') return `${error.path} does not exist; nothing was read or written.`;
  if (error.code === 'EEXIST') return `${error.path} is there already; nothing is overwritten. Choose another name.`;
  return error.message;
}

async function measure(files: string[], options: { json?: boolean }): Promise<void> {
  const k = newKernels();
  const results: object[] = [];
  for (const file of files) {
    try {
      const source = await FileSource.open(file);
      const facts = await measureStream(k, await openAudio(k, source), {
        levels: true,
        spectrum: options.json,
        dialogue: options.json,
      }).finally(() => source.close());
      results.push({ file, ...plain(facts) });
      if (!options.json) {
        facts.notes.forEach((n) => console.error(`${file}: ${n}`));
        console.log(
          `${file}: ${facts.layout}, ${facts.sampleRate} Hz, ${facts.bits} bit, ${formatDuration(facts.seconds)}, ${formatDb(facts.integrated)} LUFS, ${formatDb(facts.range)} LU, ${formatDb(facts.truePeak)} dBTP`,
        );
      }
    } catch (error) {
      process.exitCode = 1;
      results.push({ file, error: sentence(error as Error) });
      if (!options.json) console.error(`${file}: ${sentence(error as Error)}`);
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

async function print(
  id: string,
  options: { out: string; json?: boolean; version: string; threads: string },
): Promise<void> {
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
      threads: Number(options.threads),
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

type Kind = 'wav' | 'aiff' | 'flac';
const KIND_OF: Record<string, Kind> = {
  '.wav': 'wav',
  '.bwf': 'wav',
  '.aif': 'aiff',
  '.aiff': 'aiff',
  '.flac': 'flac',
};

async function convert(
  from: string,
  to: string,
  options: { rate?: string; bits?: string; dither?: boolean },
): Promise<void> {
  const kind = KIND_OF[path.extname(to).toLowerCase()];
  if (!kind) throw new Error(`The name of the new file ends in .wav, .aiff or .flac; "${to}" does not.`);
  const wanted = options.bits === undefined ? undefined : FORMATS[options.bits];
  if (options.bits !== undefined && !wanted)
    throw new Error(`--bits takes 8, 16, 24, 32 or 32f; "${options.bits}" is none of them.`);
  const k = newKernels();
  const source = await FileSource.open(from);
  try {
    const stream = await openAudio(k, source);
    const sampleRate = options.rate === undefined ? stream.sampleRate : Number(options.rate);
    if (!(sampleRate >= 8000 && sampleRate <= 384_000))
      throw new Error(`--rate takes a rate in Hz; "${options.rate}" is none.`);
    const format = wanted ?? formatKept(stream.format, sampleRate !== stream.sampleRate);
    const done = await convertAudio(k, source, to, { kind, sampleRate, format, dither: options.dither ?? false });
    console.log(
      `${to}: ${done.frames} frames at ${sampleRate} Hz${done.overs ? `; ${done.overs} samples were held at full scale` : ''}`,
    );
  } finally {
    await source.close();
  }
}

const FORMATS: Record<string, 8 | 16 | 24 | 32 | 132> = { 8: 8, 16: 16, 24: 24, 32: 32, '32f': 132 };

/** A session's timeline, or a file of another tool, as a list or timeline of another kind. */
async function exchange(
  from: string,
  to: string,
  options: { fps: string; start: string; rate: string },
): Promise<void> {
  const ending = (file: string) => path.extname(file).toLowerCase();
  const id = FRAME_RATES.find((r) => r.id === options.fps)?.id;
  if (!id) throw new Error(`--fps takes ${FRAME_RATES.map((r) => r.id).join(', ')}; "${options.fps}" is none of them.`);
  const startFrames = timecodeToFrames(options.start, frameRate(id));
  const list = { frameRate: id, startFrames };
  const text = ending(from) ? await readFile(from, 'utf8') : '';
  const read = ((): Read<Timeline> | Read<Cue[]> | null => {
    if (ending(from) === '.otio') return readOtio(text, Number(options.rate));
    if (ending(from) === '.edl') return readEdl(text, id, Number(options.rate), startFrames);
    if (ending(from) === '.srt') return readSrt(text);
    if (ending(from) === '.vtt') return readVtt(text);
    if (ending(from) === '.csv') return readCueList(text, list);
    return null;
  })();
  const { value, notes } = read ?? { value: sessionTimeline((await sessionOf(from)).doc), notes: [] };
  notes.forEach((n) => console.error(n));
  const cues = Array.isArray(value) ? value : cuesOf(value);
  const timeline = Array.isArray(value) ? null : value;
  const out = (() => {
    if (ending(to) === '.srt') return writeSrt(cues);
    if (ending(to) === '.vtt') return writeVtt(cues);
    if (ending(to) === '.csv') return writeCueList(cues, timeline ?? list);
    if (!timeline) throw new Error('Spoken lines have no files behind them; write them as .srt, .vtt or .csv.');
    if (ending(to) === '.otio') return writeOtio(timeline);
    if (ending(to) === '.edl') return timeline.tracks.map((_, i) => writeEdl(timeline, i)).join('\r\n');
    throw new Error(`The name of the new file ends in .otio, .edl, .csv, .srt or .vtt; "${to}" does not.`);
  })();
  await writeFile(to, out, { flag: 'wx' });
}

const program = new Command('wide-room').description('Measure files, print and check sessions without a browser.');
program
  .command('measure <files...>')
  .description('format and all meters of WAV, RF64, BW64, AIFF and FLAC files; --json adds levels, spectrum and speech')
  .option('--json')
  .action(measure);
program
  .command('print <session>')
  .description('print all deliverables of a session in one pass, with proof')
  .requiredOption('--out <dir>')
  .option('--version <n>', 'version in the file names', '1')
  .option('--threads <n>', 'parts that print beside each other', String(Math.min(4, availableParallelism())))
  .option('--json')
  .action(print);
program
  .command('convert <from> <to>')
  .description('write a sound file as another kind (by its ending), rate or word length')
  .option('--rate <hz>')
  .option('--bits <n>', '8, 16, 24, 32 or 32f')
  .option('--dither', 'triangular noise of two steps before rounding')
  .action(convert);
program
  .command('exchange <from> <to>')
  .description('a session, .otio, .edl, .csv, .srt or .vtt as another of these')
  .option('--fps <rate>', 'frame rate of an edit list or cue list', '25')
  .option('--start <timecode>', 'timecode at which the list starts', '00:00:00:00')
  .option('--rate <hz>', 'sample rate of the times', '48000')
  .action(exchange);
program.command('check <session>').description('path audit and print check').action(check);
program
  .parseAsync()
  .catch((error: Error) => {
    console.error(sentence(error));
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
