import { createWriteStream } from 'node:fs';
import { readdir, readFile, stat, statfs } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import type { Kernels } from '@/core/kernels';
import { measureFile } from '@/core/measure';
import {
  differenceText,
  levelText,
  objectLayout,
  sumCheck,
  type FileProof,
  type Proof,
  type SumProof,
} from '@/core/print';
import { isLayout, layoutIn, layoutOf, reordering } from '@/core/speakers';
import { parseFigures } from '@/core/units';
import { Refused } from '../http';
import { inScratch } from '../scratch';
import { openFile } from '../media';
import { sha256 } from '../sha256';

/** One thing that was looked at again, and whether it still is as it was proven. */
export interface Verified {
  good: boolean;
  what: string;
  found: string;
}

const LIST = 'SHA256SUMS';
const PROOF = 'proof.json';
/** Files of an archive, and bytes of one that is no sound. */
const MOST_FILES = 2000;
const MOST_WORDS = 64 * 2 ** 20;
/** Share of what is free that may be unpacked. */
const MOST_OF_DISK = 0.8;
/** Figures are the same where they are written the same. */
const SAME = 0.005;

/** Proves a handed-over print again, a folder or a ZIP archive: checksums, figures, sums. Throws Refused where it is none. */
export async function verifyPrint(k: Kernels, place: string): Promise<Verified[]> {
  const there = await stat(place).catch(() => null);
  if (!there) throw new Refused(404, `${place} does not exist.`);
  if (there.isDirectory()) return verifyFolder(k, place);
  return inScratch(async (dir) => {
    await unpack(place, dir);
    return verifyFolder(k, dir);
  });
}

async function unpack(file: string, dir: string): Promise<void> {
  const { bavail, bsize } = await statfs(dir);
  // An archive may become any size: what the disk does not take is not begun.
  let room = bavail * bsize * MOST_OF_DISK;
  return new Promise((resolve, reject) => {
    yauzl.open(file, { lazyEntries: true }, (error, zip) => {
      if (!zip) {
        reject(new Refused(422, `This is no ZIP archive (${error?.message ?? 'unreadable'}).`));
        return;
      }
      const fail = (why: Error) => {
        zip.close();
        reject(why);
      };
      if (zip.entryCount > MOST_FILES)
        return fail(new Refused(422, `The archive holds ${zip.entryCount} files; a print has fewer.`));
      zip.on('error', fail);
      zip.on('end', () => resolve());
      zip.on('entry', (entry: yauzl.Entry) => {
        // A print is flat: whatever would lie elsewhere is none of it.
        if (!/^[\w.{}, -]+$/.test(entry.fileName))
          return fail(
            new Refused(422, `The archive holds "${entry.fileName}"; a print holds files only, in no folder.`),
          );
        if (!/\.(wav|aif)$/.test(entry.fileName) && entry.uncompressedSize > MOST_WORDS)
          return fail(new Refused(422, `${entry.fileName} is larger than such a file is in a print.`));
        room -= entry.uncompressedSize;
        if (room < 0)
          return fail(new Refused(507, 'The disk of this machine has no room for the files of the archive.'));
        zip.openReadStream(entry, (failed, stream) => {
          if (!stream) return fail(failed ?? new Error('unreadable'));
          pipeline(stream, createWriteStream(path.join(dir, entry.fileName))).then(() => zip.readEntry(), fail);
        });
      });
      zip.readEntry();
    });
  });
}

const sumsIn = (proof: Proof): SumProof[] =>
  [proof, ...(proof.ranges ?? [])].flatMap(({ sum, moreSums = [] }) => [...(sum ? [sum] : []), ...moreSums]);

// It comes from outside: what is asked of it is there.
const isProof = (proof: Partial<Proof> | null): boolean =>
  Array.isArray(proof?.files) &&
  proof.files.every(
    (f: Partial<FileProof> | null) =>
      typeof f?.file === 'string' &&
      typeof f.facts === 'object' &&
      f.facts !== null &&
      Array.isArray(f.parts) &&
      f.parts.every((p) => typeof p?.file === 'string'),
  ) &&
  (proof.ranges === undefined ||
    (Array.isArray(proof.ranges) && proof.ranges.every((r) => r && typeof r === 'object'))) &&
  [proof, ...(proof.ranges ?? [])]
    .flatMap((r) => [r.sum ?? null, ...(r.moreSums ?? [])])
    .every((s) => s === null || (typeof s === 'object' && (s.files === undefined || Array.isArray(s.files?.stems))));

/** The same of a folder. */
export async function verifyFolder(k: Kernels, dir: string): Promise<Verified[]> {
  const list = await readFile(path.join(dir, LIST), 'utf8').catch(() => null);
  const data = await readFile(path.join(dir, PROOF), 'utf8').catch(() => null);
  if (list === null || data === null)
    throw new Refused(422, `There is no ${list === null ? LIST : PROOF}: this is no print that was handed over.`);
  let proof: Proof;
  try {
    proof = parseFigures(data) as Proof;
    if (!isProof(proof)) throw new Error('it is no proof of a print');
  } catch (error) {
    throw new Refused(422, `${PROOF} cannot be read (${(error as Error).message}).`);
  }
  const out: Verified[] = [];
  const listed = list.split('\n').flatMap((line) => /^([0-9a-f]{64}) [ *](.+)$/.exec(line.trim())?.slice(1, 3) ?? []);
  for (let i = 0; i < listed.length; i += 2) {
    const [sum, name] = [listed[i]!, path.basename(listed[i + 1]!)];
    const file = path.join(dir, name);
    if (!(await stat(file).catch(() => null))) {
      out.push({ good: false, what: name, found: 'is missing' });
      continue;
    }
    const same = (await sha256(file)) === sum;
    out.push({
      good: same,
      what: name,
      found: same ? 'its checksum is that of the list' : 'was changed: its checksum is another one',
    });
  }
  const unlisted = proof.files.flatMap((f) => f.parts.map((p) => p.file)).filter((f) => !listed.includes(f));
  for (const name of unlisted) out.push({ good: false, what: name, found: `does not stand in ${LIST}` });
  for (const f of proof.files) out.push(await figuresOf(k, dir, f));
  for (const sum of sumsIn(proof)) out.push(await sumOf(k, dir, proof, sum));
  for (const name of await readdir(dir))
    if (/\.(wav|aif)$/.test(name) && !listed.includes(name))
      out.push({ good: false, what: name, found: 'is no part of the print' });
  return out;
}

const speakersOf = (f: FileProof) =>
  f.objects
    ? objectLayout(f.objects)
    : f.layout && isLayout(f.layout)
      ? layoutIn(layoutOf(f.layout), f.order ?? 'wav')
      : undefined;

/** Whether a figure is the one that was proven; those that do not exist are equal to each other. */
const alike = (a: number, b: number): boolean => a === b || Math.abs(a - b) < SAME;

const nameOf = (f: FileProof): string => path.basename(f.file);

async function figuresOf(k: Kernels, dir: string, f: FileProof): Promise<Verified> {
  const what = `figures of ${nameOf(f)}`;
  try {
    const source = await openFile(path.join(dir, nameOf(f)));
    const speakers = speakersOf(f);
    const facts = await measureFile(k, source, {
      ...(speakers ? { as: speakers } : {}),
      from: f.lead ?? 0,
    }).finally(() => source.close());
    const wrong = (
      ['channels', 'sampleRate', 'bits', 'frames', 'integrated', 'truePeak', 'samplePeak', 'range'] as const
    ).filter((name) => !alike(facts[name], f.facts[name]));
    if (wrong.length === 0)
      return {
        good: true,
        what,
        found: `${levelText(facts.integrated, 'LUFS')}, ${levelText(facts.truePeak, 'dBTP')}, as proven`,
      };
    return { good: false, what, found: wrong.map((n) => `${n} is ${facts[n]}, proven was ${f.facts[n]}`).join('; ') };
  } catch (error) {
    return { good: false, what, found: `cannot be read (${(error as Error).message})` };
  }
}

async function sumOf(k: Kernels, dir: string, proof: Proof, sum: SumProof): Promise<Verified> {
  const what = `stems against ${sum.reference ?? 'the reference'}`;
  if (!sum.files)
    return { good: true, what, found: 'was proven by an earlier release, which did not say of which files' };
  const open = async (name: string) => {
    const f = proof.files.find((x) => x.file === name);
    const source = await openFile(path.join(dir, path.basename(name)));
    const channels =
      f?.layout && isLayout(f.layout) ? { channels: reordering(layoutOf(f.layout), f.order ?? 'wav', 'wav') } : {};
    return { source, ...channels, lead: f?.lead ?? 0 };
  };
  const opened: Awaited<ReturnType<typeof open>>[] = [];
  try {
    for (const name of [...sum.files.stems, sum.files.reference]) opened.push(await open(name));
    const { difference } = await sumCheck(k, opened.slice(0, -1), opened.at(-1)!);
    const good = alike(difference, sum.difference);
    return {
      good,
      what,
      found: `${differenceText(difference)}${good ? ', as proven' : `, proven was ${differenceText(sum.difference)}`}`,
    };
  } catch (error) {
    return { good: false, what, found: `cannot be added up (${(error as Error).message})` };
  } finally {
    await Promise.all(opened.map((o) => o.source.close()));
  }
}
