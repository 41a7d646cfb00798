import { createReadStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { ArrayNotEmpty, IsArray, IsIn, IsNumber, IsString, Max, Min } from 'class-validator';
import { nanoid } from 'nanoid';
import Papa from 'papaparse';
import yazl from 'yazl';
import { lineSheetTable, scriptOf, takeTable, writeCueList } from '@/core/exchange';
import { ChannelSet } from '@/core/kernels';
import { AudioWriter, encodeIxml, formatOfWord } from '@/core/files';
import { clipCuts, dryTrack, joinTrack, rawName, rawRange, safeName, timeReference, type RawWish } from '@/core/print';
import { fileChannels, readAs, type SessionDoc, type Track } from '@/core/session';
import { layoutOf, reorder } from '@/core/speakers';
import { formatDuration, frameRate, timecodeToFrames } from '@/core/units';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import { diskPaths, FileSink, WavReader } from '../media';
import { tablePdf } from '../paper';
import { filesOf } from '../prints';
import { sha256 } from '../sha256';
import { scratchFolder } from '../scratch';
import { loadSession } from '../sessions';
import { shared } from '../shared';

/** What is asked of a raw handover. */
class RawForm implements RawWish {
  @IsArray() @ArrayNotEmpty({ message: 'no track was chosen' }) @IsString({ each: true }) tracks!: string[];
  @IsIn(['joined', 'clips', 'takes']) as!: RawWish['as'];
  @IsNumber() @Min(0) @Max(60) handles!: number;
  @IsIn(['processed', 'dry']) sound!: RawWish['sound'];
  @IsIn(['circled', 'all']) takes!: RawWish['takes'];
}

/** Reads a wish from plain JSON. Throws EditRefused with what is wrong in it. */
export const readWish = (json: unknown): RawWish => readAs(RawForm, json, 'raw tracks');

interface RawFile {
  name: string;
  path: string;
}

/** A handover that is made, and waits to be fetched. */
interface Ready {
  name: string;
  dir: string;
  files: RawFile[];
  words: { name: string; bytes: Buffer }[];
}

const ready = () => shared('raw-ready', () => new Map<string, Ready>());
/** Nobody fetched it for so long (ms): what was made for it goes. */
const WAITS = 10 * 60_000;

/**
 * Makes the files of a handover for another engineer and gives the token that fetches them, once: raw files, the line
 * sheet, the script, what was noted of the takes, checksums. Throws Refused where a track or a file is not there; nothing
 * is left out in silence.
 */
export async function makeRaw(session: string, wish: RawWish): Promise<{ token: string }> {
  const { doc } = await loadSession(session);
  const tracks = wish.tracks.map((id) => {
    const found = doc.tracks.find((t) => t.id === id);
    if (!found) throw new Refused(422, `There is no track "${id}" in this session.`);
    return found;
  });
  const media = await filesOf(session, doc);
  const dir = await scratchFolder();
  try {
    const { files, list } = await filesFor(doc, tracks, media, wish, dir);
    if (files.length === 0)
      throw new Refused(
        422,
        wish.as !== 'takes'
          ? 'These tracks have no clips; there is nothing to hand over.'
          : `These tracks have no ${wish.takes === 'circled' ? 'circled ' : ''}takes; there is nothing to hand over.`,
      );
    const sums: string[] = [];
    for (const f of files) sums.push(`${await sha256(f.path)}  ${f.name}\n`);
    const { frameRate: id, startTimecode } = doc.format;
    const times = { frameRate: id, startFrames: timecodeToFrames(startTimecode, frameRate(id)) };
    const sheets = [
      { name: 'line-sheet', title: 'Line sheet', csv: lineSheetTable(doc.lines) },
      { name: 'takes', title: 'Takes', csv: takeTable(doc, tracks) },
      ...(doc.cues.length > 0 ? [{ name: 'script', title: 'Script', csv: writeCueList(scriptOf(doc), times) }] : []),
      ...(list ? [{ name: 'clips', title: 'Clips', csv: list }] : []),
    ];
    const words: Ready['words'] = [
      { name: 'SHA256SUMS', bytes: Buffer.from(sums.join('')) },
      { name: 'about.txt', bytes: Buffer.from(aboutText(doc, tracks, wish, files.length)) },
    ];
    for (const { name, title, csv } of sheets) {
      words.push({ name: `${name}.csv`, bytes: Buffer.from(csv) });
      words.push({ name: `${name}.pdf`, bytes: await tablePdf(`${doc.name}: ${title}`, noteOf(doc), csv) });
    }
    const token = nanoid();
    ready().set(token, { name: `${safeName(doc.code)}_raw.zip`, dir, files, words });
    setTimeout(() => void drop(token), WAITS).unref();
    return { token };
  } catch (error) {
    await rm(dir, { recursive: true, force: true });
    throw error;
  }
}

async function drop(token: string): Promise<void> {
  const made = ready().get(token);
  ready().delete(token);
  if (made) await rm(made.dir, { recursive: true, force: true });
}

/** A handover that was made, as a ZIP; what was made for it goes when it is fetched, or nobody waits for it any more. */
export async function rawArchive(token: string): Promise<{ name: string; stream: Readable }> {
  const made = ready().get(token);
  if (!made) throw new Refused(404, 'That handover was fetched already, or waited too long. Make it again.');
  const zip = new yazl.ZipFile();
  const stream = zip.outputStream as Readable;
  zip.on('error', (error: Error) => stream.destroy(error));
  for (const f of made.files) {
    const { size } = await stat(f.path);
    zip.addReadStreamLazy(f.name, { compress: false, size }, (give) => give(null, createReadStream(f.path)));
  }
  for (const { name, bytes } of made.words) zip.addBuffer(bytes, name);
  zip.end();
  stream.once('close', () => void drop(token));
  return { name: made.name, stream };
}

/** A name that none before has. */
function fresh(names: Set<string>, stem: string, ending: string): string {
  for (let i = 1; ; i++) {
    const name = `${stem}${i === 1 ? '' : `-${i}`}${ending}`;
    if (names.has(name.toLowerCase())) continue;
    names.add(name.toLowerCase());
    return name;
  }
}

const noteOf = (doc: SessionDoc): string =>
  [`${doc.format.sampleRate / 1000} kHz, ${doc.format.frameRate} fps`, doc.about?.client, doc.about?.contact]
    .filter(Boolean)
    .join(' · ');

/** The files of a handover, and for clips the list that says where each stands. */
async function filesFor(
  doc: SessionDoc,
  tracks: readonly Track[],
  media: Record<string, string>,
  wish: RawWish,
  dir: string,
): Promise<{ files: RawFile[]; list: string | null }> {
  if (wish.as === 'takes') return { files: await asRecorded(doc, tracks, media, wish), list: null };
  const k = newKernels();
  const reader = new WavReader(
    k,
    (id) => media[id] ?? Promise.reject(new Error('it is missing')),
    SPAN,
    (id, from, why) => {
      throw new Refused(
        409,
        `${doc.media[id]?.name ?? id} could not be read at ${(from / doc.format.sampleRate).toFixed(2)} s (${why}). Nothing was handed over; bring the file back in the list of files.`,
      );
    },
  );
  try {
    const making = { k, doc, reader, dir, names: new Set<string>() };
    const sounding = tracks.filter((t) => t.clips.length > 0);
    return wish.as === 'joined'
      ? { files: await joined(making, sounding, wish), list: null }
      : await asClips(making, sounding, wish);
  } finally {
    await reader.close();
  }
}

interface RawMaking {
  k: ReturnType<typeof newKernels>;
  doc: SessionDoc;
  reader: WavReader;
  dir: string;
  names: Set<string>;
}

const SPAN = 16_384;

/** Writes a file of a track, beginning at a sample of the timeline; `write` gives its sound. */
async function rawFile(
  { k, doc, dir }: RawMaking,
  track: Track,
  { name, scene, start }: { name: string; scene: string; start: number },
  write: (writer: AudioWriter) => Promise<void>,
): Promise<RawFile> {
  const file = path.join(dir, name);
  const sink = await FileSink.create(file);
  const layout = layoutOf(track.layout);
  const { sampleRate, wordLength } = doc.format;
  const rate = frameRate(doc.format.frameRate);
  const reference = timeReference(doc, start);
  const spec = {
    ...{ kind: 'wav' as const, format: formatOfWord(wordLength), channels: layout.speakers.length, sampleRate },
    mask: layout.mask,
    bext: {
      ...{ description: `${doc.name}, ${scene}, raw`, originator: 'Wide Room', originatorReference: '' },
      ...{ date: '', time: '', timeReference: reference },
      codingHistory: `A=PCM,F=${sampleRate},W=${wordLength},T=Wide Room\r\n`,
    },
    ixml: encodeIxml({
      ...{ project: doc.name, scene, timecodeRate: `${rate.num}/${rate.den}`, drop: rate.drop },
      ...{ sampleRate, bits: wordLength, timeReference: reference, tracks: layout.speakers.map((s) => s.label) },
    }),
  };
  try {
    const writer = new AudioWriter(k, sink, spec, SPAN, wordLength === 16);
    await write(writer);
    await writer.finish();
  } finally {
    await sink.close();
  }
  return { name, path: file };
}

// From one common start, so that all of them lie in place when they are laid side by side.
async function joined(making: RawMaking, tracks: readonly Track[], wish: RawWish): Promise<RawFile[]> {
  const { k, doc, reader, names } = making;
  const range = rawRange(tracks);
  const files: RawFile[] = [];
  for (const track of tracks) {
    const name = fresh(names, rawName(doc, track, wish.sound === 'dry' ? 'DRY' : ''), '.wav');
    const laid = wish.sound === 'dry' ? dryTrack(track) : track;
    files.push(
      await rawFile(making, track, { name, scene: track.name, start: range.start }, (writer) =>
        joinTrack(k, doc, laid, reader.read, range, (set, n) => writer.write(set.table, n)),
      ),
    );
  }
  return files;
}

// Each clip as it lies in its recording, with what stands around it: without fades and gains, which are its editor's.
async function asClips(
  making: RawMaking,
  tracks: readonly Track[],
  wish: RawWish,
): Promise<{ files: RawFile[]; list: string }> {
  const { k, doc, reader, names } = making;
  const handles = Math.round(wish.handles * doc.format.sampleRate);
  const seconds = (frames: number) => (frames / doc.format.sampleRate).toFixed(3);
  const files: RawFile[] = [];
  const rows: string[][] = [];
  for (const track of tracks) {
    const laid = wish.sound === 'dry' ? dryTrack(track) : track;
    for (const [i, { clip, from, to, before, behind }] of clipCuts(doc, laid, handles).entries()) {
      const number = String(i + 1).padStart(3, '0');
      const more = [`C${number}`, ...(wish.sound === 'dry' ? ['DRY'] : [])].join('_');
      const name = fresh(names, rawName(doc, track, more), '.wav');
      // A handle that would begin before midnight of the session's clock is told by its list, not by the file.
      const start = Math.max(-timeReference(doc, 0), clip.start - before);
      const set = new ChannelSet(k, layoutOf(track.layout).speakers.length, SPAN);
      const by = fileChannels(doc.media[clip.media], track.layout);
      files.push(
        await rawFile(making, track, { name, scene: clip.name, start }, async (writer) => {
          for (let at = from; at < to; at += SPAN) {
            const n = Math.min(SPAN, to - at);
            set.clear(n);
            await reader.read(clip.media, at, n, (planar) =>
              (by ? reorder(planar, by) : planar).forEach((x, c) => set.view(c, n).set(x.subarray(0, n))),
            );
            await writer.write(set.table, n);
          }
        }),
      );
      set.free();
      rows.push([name, track.name, clip.name, ...[clip.start, clip.length, before, behind].map(seconds)]);
    }
  }
  const fields = ['file', 'track', 'clip', 'starts at s', 'length s', 'handle before s', 'handle behind s'];
  return { files, list: Papa.unparse({ fields, data: rows }, { escapeFormulae: /^[=+@]/ }) };
}

// The files themselves, under names that say what they are.
async function asRecorded(
  doc: SessionDoc,
  tracks: readonly Track[],
  media: Record<string, string>,
  wish: RawWish,
): Promise<RawFile[]> {
  const names = new Set<string>();
  const files: RawFile[] = [];
  for (const track of tracks)
    for (const take of track.takes) {
      if (wish.takes === 'circled' && !take.circled) continue;
      const dry = wish.sound === 'dry' && take.dryMedia !== null;
      const id = dry ? take.dryMedia! : take.media;
      if (!media[id]) throw new Refused(409, `${doc.media[id]?.name ?? id} is missing; nothing was handed over.`);
      const more = [
        `T${String(take.number).padStart(2, '0')}`,
        ...(dry ? ['DRY'] : []),
        ...(take.circled ? ['circled'] : []),
      ];
      for (const file of diskPaths(media[id])) {
        if (!(await stat(file).catch(() => null)))
          throw new Refused(409, `${path.basename(file)} is missing; nothing was handed over.`);
        files.push({ name: fresh(names, rawName(doc, track, more.join('_')), path.extname(file)), path: file });
      }
    }
  return files;
}

function aboutText(doc: SessionDoc, tracks: readonly Track[], wish: RawWish, files: number): string {
  const { sampleRate, wordLength, startTimecode, frameRate: fps } = doc.format;
  const { end } = rawRange(tracks);
  return [
    `${doc.name}: raw tracks`,
    ...(doc.about?.contact ? [`Questions: ${doc.about.contact}`] : []),
    '',
    `${files} ${files === 1 ? 'file' : 'files'} at ${sampleRate / 1000} kHz, ${wordLength} bit. Timecode runs at ${fps} fps.`,
    wish.as === 'clips'
      ? `Each file is a clip as it lies in its recording, with up to ${wish.handles} s around it, without its fades and gains; clips.csv says where it stands and how long its handles are.`
      : wish.as === 'joined'
        ? `Each file begins at ${startTimecode} and is ${formatDuration(end / sampleRate)} long: laid side by side they are in place. Clips have their fades and gains; there is no chain, level or path in them${wish.sound === 'dry' ? ', and recordings are the untouched lines where there were any' : ''}.`
        : 'Each file is a recording as it was made; its time reference says where it stands.',
    '',
    'line-sheet says which microphone stood on which line, takes what was noted of each take, script the lines: each as a table (.csv) and on paper (.pdf).',
    'sha256sum -c SHA256SUMS proves that the files are whole.',
    '',
  ].join('\n');
}
