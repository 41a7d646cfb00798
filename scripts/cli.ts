import 'reflect-metadata';
import { access, mkdir, readFile, stat, writeFile } from 'node:fs/promises';
import { constants, createWriteStream, existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Command } from 'commander';
import { byGrade, pathAudit, printCheck } from '@/core/checks';
import { measureStream, type FileFacts } from '@/core/measure';
import { bringSession, sessionArchive } from '@/server/archives';
import { closeDatabase, openDatabase } from '@/server/database';
import { answerTo } from '@/server/http/causes';
import { newKernels } from '@/server/kernels';
import { convertAudio, FileSource, formatKept, openAudio } from '@/server/media';
import { filesOf, printStops, REPORT_KINDS, reportAs, reportName, runPrint, verifyPrint } from '@/server/prints';
import { differenceText, hullOf, levelText, printRanges, rangesOf, withFiles } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { listSessions, openSession } from '@/server/sessions';
import {
  type ListedCue,
  cuesOf,
  type Read,
  readCueList,
  readEdl,
  readOtio,
  readSrt,
  readVtt,
  scriptOf,
  sessionTimeline,
  type Timeline,
  writeCueList,
  writeEdl,
  writeOtio,
  writeSrt,
  writeVtt,
} from '@/core/exchange';
import { formatDb, formatDuration, FRAME_RATES, frameRate, stringifyFigures, timecodeToFrames } from '@/core/units';

import { doctor } from './commands/doctor';
import { restore } from './commands/restore';
import { worker } from './commands/worker';
import { seatAdd, seatList, seatRemove } from './commands/seat';

// Levels of silence stay what they are; they are written as stringifyFigures does.
const figure = (v: number): number => (Number.isFinite(v) ? Math.round(v * 100) / 100 : v);

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
  return answerTo(error)?.body.message ?? error.message;
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
          `${file}: ${facts.layout}, ${facts.sampleRate} Hz, ${facts.bits} bit, ${formatDuration(facts.seconds)}, ${levelText(facts.integrated, 'LUFS')}, ${formatDb(facts.range)} LU, ${levelText(facts.truePeak, 'dBTP')}`,
        );
      }
    } catch (error) {
      process.exitCode = 1;
      results.push({ file, error: sentence(error as Error) });
      if (!options.json) console.error(`${file}: ${sentence(error as Error)}`);
    }
  }
  if (options.json) console.log(stringifyFigures(results, 2));
}

/** A whole number from 1 on, as an option takes it. */
function count(option: string, text: string): number {
  const n = Number(text);
  if (!Number.isSafeInteger(n) || n < 1)
    throw new Error(`${option} takes a whole number from 1 on; "${text}" is none.`);
  return n;
}

/**
 * Makes a folder and those above it, one after the other: asked to make them at once, Node goes round for ever where a
 * file system takes none (as /proc).
 */
async function makeFolder(dir: string): Promise<void> {
  const there = await stat(dir).catch(() => null);
  if (there?.isDirectory()) {
    await access(dir, constants.W_OK).catch(() => {
      throw new Error(`${dir} cannot be written to; nothing was printed. Choose another folder.`);
    });
    return;
  }
  if (there) throw new Error(`${dir} is a file, not a folder; nothing was printed.`);
  if (path.dirname(dir) !== dir) await makeFolder(path.dirname(dir));
  await mkdir(dir).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST')
      throw new Error(`The folder ${dir} could not be made (${error.code}); nothing was printed. Choose another one.`);
  });
}

async function sessionOf(id: string) {
  await openDatabase();
  const found = (await listSessions()).find((s) => s.id === id || s.name === id);
  if (!found) throw new Error(`There is no session "${id}" in this data folder.`);
  return openSession(found.id);
}

/** The session with the ranges that were asked for in the place of its own. */
function docFor(doc: SessionDoc, { ranges }: { ranges?: string }): SessionDoc {
  if (ranges === undefined) return doc;
  const by = (['cues', 'markers', 'list'] as const).find((x) => x === ranges);
  if (!by && ranges !== 'range')
    throw new Error(`--ranges takes range, cues, markers or list; "${ranges}" is none of them.`);
  const { by: _, ...rest } = doc.printing ?? {};
  return { ...doc, printing: { ...rest, ...(by ? { by } : {}) } };
}

const tokensOf = (doc: SessionDoc, tokens: readonly string[]): string[] =>
  tokens.flatMap((token) => {
    const found = doc.deliverables.filter((d) => d.token.toLowerCase() === token.toLowerCase());
    if (found.length === 0)
      throw new Error(
        `The brief has no file with the letters "${token}"; it has ${doc.deliverables.map((d) => d.token).join(', ')}.`,
      );
    return found.map((d) => d.id);
  });

function nodeNamed(doc: SessionDoc, name: string): string {
  const found = [...doc.tracks, ...doc.buses].find((n) => n.name === name || n.id === name);
  if (!found) throw new Error(`There is no track or bus "${name}" in this session.`);
  return found.id;
}

async function print(
  id: string,
  options: {
    out: string;
    json?: boolean;
    version: string;
    threads: string;
    knowingly?: boolean;
    ranges?: string;
    only?: string[];
    beside?: string[];
  },
): Promise<void> {
  const version = count('--version', options.version);
  const threads = count('--threads', options.threads);
  const out = path.resolve(options.out);
  await makeFolder(out);
  const session = await sessionOf(id);
  const media = await filesOf(session.id, session.doc);
  const words = ['SHA256SUMS', ...REPORT_KINDS.map(reportName)];
  const taken = words.find((name) => existsSync(path.join(out, name)));
  if (taken)
    throw new Error(`${path.join(out, taken)} is there already; nothing is overwritten. Choose another folder.`);
  const doc = withFiles(docFor(session.doc, options), {
    only: options.only && tokensOf(session.doc, options.only),
    beside: options.beside?.map((name) => nodeNamed(session.doc, name)),
  });
  const ranges = printRanges(doc);
  const { stops, lacking } = await printStops(doc, media);
  for (const c of stops) console.error(`stop: ${c.title}. ${c.why}`);
  if (stops.length && !options.knowingly)
    throw new Error('Nothing was printed. Mend this, or print all the same with --knowingly.');
  const proof = await runPrint(
    newKernels(),
    {
      doc,
      media,
      ranges,
      version,
      out,
      made: new Date().toISOString(),
      threads,
      lacking,
      passedBy: stops.map((c) => `${c.title}. ${c.why}`),
    },
    () => {},
  );
  const printed = { doc, proof, version, range: hullOf(ranges) };
  for (const kind of REPORT_KINDS) await writeFile(path.join(out, reportName(kind)), await reportAs(printed, kind));
  await writeFile(
    path.join(out, 'SHA256SUMS'),
    proof.files.flatMap((f) => f.parts.map((p) => `${p.sha256}  ${p.file}\n`)).join(''),
  );
  if (options.json) {
    console.log(stringifyFigures(proof, 2));
    return;
  }
  for (const f of proof.files) {
    console.log(
      `${f.file}: ${levelText(f.facts.integrated, 'LUFS')}, ${levelText(f.facts.truePeak, 'dBTP')}, ${f.findings.length ? f.findings.map((x) => x.text).join('; ') : 'as agreed'}`,
    );
  }
  for (const { name, sum } of rangesOf(proof, hullOf(ranges)))
    if (sum)
      console.log(
        `${name ? `${name}: ` : ''}Stems against reference: ${differenceText(sum.difference)}. ${sum.equal ? 'They add up.' : sum.reasons.join('; ')}`,
      );
}

async function check(id: string): Promise<void> {
  const { id: session, doc } = await sessionOf(id);
  const { stops } = await printStops(doc, await filesOf(session, doc));
  const found = byGrade([...pathAudit(doc), ...printCheck(doc), ...stops.filter((c) => c.id.startsWith('source/'))]);
  for (const c of found) console.log(`${c.grade}: ${c.title}. ${c.why}`);
  if (found.some((c) => c.grade === 'stop')) process.exitCode = 1;
  else if (found.length === 0) console.log('No findings.');
}

async function verify(place: string): Promise<void> {
  const found = await verifyPrint(newKernels(), path.resolve(place));
  for (const { good, what, found: words } of found) console.log(`${good ? 'good' : 'WRONG'}  ${what}: ${words}`);
  const wrong = found.filter((f) => !f.good).length;
  console.log(
    wrong === 0 ? 'All of it is as it was proven.' : `${wrong} of ${found.length} are not as they were proven.`,
  );
  if (wrong > 0) process.exitCode = 1;
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
  options: { rate?: string; bits?: string; dither: boolean },
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
    const done = await convertAudio(k, source, to, {
      kind,
      sampleRate,
      format,
      ...(options.dither ? {} : { dither: false }),
    });
    console.log(
      `${to}: ${done.frames} frames at ${sampleRate} Hz${done.overs ? `; ${done.overs} samples were held at full scale` : ''}`,
    );
  } finally {
    await source.close();
  }
}

const FORMATS: Record<string, 8 | 16 | 24 | 32 | 132> = { 8: 8, 16: 16, 24: 24, 32: 32, '32f': 132 };

const timelineOf = (value: Timeline | ListedCue[]): Timeline | null => (Array.isArray(value) ? null : value);

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
  const read = ((): Read<Timeline> | Read<ListedCue[]> | null => {
    if (ending(from) === '.otio') return readOtio(text, Number(options.rate));
    if (ending(from) === '.edl') return readEdl(text, id, Number(options.rate), startFrames);
    if (ending(from) === '.srt') return readSrt(text);
    if (ending(from) === '.vtt') return readVtt(text);
    if (ending(from) === '.csv') return readCueList(text, list);
    return null;
  })();
  const doc = read ? null : (await sessionOf(from)).doc;
  const { value, notes } = read ?? { value: sessionTimeline(doc!), notes: [] };
  notes.forEach((n) => console.error(n));
  // What a session says is its script; a timeline of another tool has only its clips.
  const script = doc ? scriptOf(doc) : [];
  const cues = Array.isArray(value) ? value : doc ? script : cuesOf(value);
  const spoken = ['.srt', '.vtt', '.csv'].includes(ending(to));
  if (doc && spoken && script.length === 0)
    throw new Error('This session has no script, so there is nothing to write. Bring one in first.');
  if (ending(to) === '.edl' && timelineOf(value)?.markers.length)
    console.error(`${timelineOf(value)!.markers.length} markers are left out: an edit list has no place for them.`);
  const timeline = timelineOf(value);
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
  .option('--knowingly', 'print although something stands in the way')
  .option('--ranges <kind>', 'range, cues, markers or list; as the session says unless told')
  .option('--only <letters...>', 'only the files of the brief with these letters')
  .option('--beside <names...>', 'tracks and buses that are printed beside the brief')
  .option('--threads <n>', 'parts that print beside each other', String(Math.min(4, availableParallelism())))
  .option('--json')
  .action(print);
program
  .command('convert <from> <to>')
  .description('write a sound file as another kind (by its ending), rate or word length')
  .option('--rate <hz>')
  .option('--bits <n>', '8, 16, 24, 32 or 32f')
  .option('--no-dither', 'no noise before rounding; without this, 16 bits are dithered where they hold less')
  .action(convert);
program
  .command('exchange <from> <to>')
  .description('a session, .otio, .edl, .csv, .srt or .vtt as another of these')
  .option('--fps <rate>', 'frame rate of an edit list or cue list', '25')
  .option('--start <timecode>', 'timecode at which the list starts', '00:00:00:00')
  .option('--rate <hz>', 'sample rate of the times', '48000')
  .action(exchange);
program
  .command('verify <place>')
  .description('prove a handed-over print again, a folder or its ZIP archive: checksums, figures, sums')
  .action(verify);
program
  .command('archive <session>')
  .description('a whole session as one archive: document, versions, files')
  .requiredOption('--out <file>')
  .option('--history', 'with every step')
  .action(async (id: string, options: { out: string; history?: boolean }) => {
    const { stream, name } = await sessionArchive((await sessionOf(id)).id, options.history === true);
    await pipeline(stream, createWriteStream(options.out, { flags: 'wx' }));
    console.log(`${options.out} (${name})`);
  });
program
  .command('bring <archive>')
  .description('take a whole session in from its archive')
  .action(async (file: string) => {
    await openDatabase();
    const { id, name, notes } = await bringSession(path.resolve(file));
    console.log([`${name} is here as "${id}".`, ...notes].join('\n'));
  });
program
  .command('doctor')
  .description('look over data folder, database, files, prints and tools, and say what to do')
  .action(doctor);
program
  .command('restore [day]')
  .description('put a copy of the database in its place: the newest, or that of a day (2026-11-26)')
  .action(restore);
program
  .command('worker')
  .description('make prints of the line that several servers share (DATABASE_URL), on any machine')
  .action(worker);
const seat = program.command('seat').description('who may come from another machine');
seat
  .command('add <name>')
  .description('make a seat, or give one a new role or phrase; the phrase is typed, or comes by a pipe')
  .option('--role <role>', 'engineer or listener', 'engineer')
  .action(seatAdd);
seat.command('remove <name>').description('take a seat away').action(seatRemove);
seat.command('list').description('all seats').action(seatList);
program.command('check <session>').description('path audit and print check').action(check);
program
  .parseAsync()
  .catch((error: Error) => {
    console.error(sentence(error));
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
