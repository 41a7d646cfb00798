import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import path from 'node:path';
import yazl from 'yazl';
import { safeName, type FileProof, type Proof, type SealedFile } from '@/core/print';
import { Refused } from '../http';
import { fetchKept } from '../objects';
import { loadSession } from '../sessions';
import { dirOf, rowOf, type Row } from './rows';
import { REPORT_KINDS, reportAs, reportName, type Printed, type ReportKind } from './report';
import { sha256 } from '../sha256';

// Proofs of earlier releases have one file each, without parts.
const sealedOf = (f: FileProof): SealedFile[] => f.parts ?? [f as unknown as SealedFile];

/** What a file is now, where it is not what was printed; null when it is. */
async function unlike(dir: string, f: SealedFile): Promise<string | null> {
  const there = await stat(path.join(dir, f.file)).catch(() => null);
  if (!there) return 'is missing';
  if (there.size !== f.bytes) return `has ${there.size} bytes and had ${f.bytes}`;
  return (await sha256(path.join(dir, f.file))) === f.sha256 ? null : 'was changed: its checksum is another one';
}

/** Throws Refused where a finished print, or one of its files as it was printed, is not there any more. */
export async function checkPrinted(id: string): Promise<{ row: Row; proof: Proof; dir: string; parts: SealedFile[] }> {
  const row = await rowOf(id);
  if (row.state !== 'done' || !row.proof) throw new Refused(409, 'Only a finished print can be downloaded.');
  const dir = dirOf(row.session, row.version);
  const parts = row.proof.files.flatMap(sealedOf);
  await fetchKept(parts.map((f) => path.join(dir, f.file)));
  for (const f of parts) {
    const why = await unlike(dir, f);
    if (why)
      throw new Refused(
        409,
        `${f.file} of print ${row.version} ${why}. It is not handed over; print again, the version counts up. The other files are untouched in ${dir}.`,
      );
  }
  return { row, proof: row.proof, dir, parts };
}

/** For whom it is and whom to ask are told as they are now: they are no sound. */
async function printedOf(row: Row, proof: Proof): Promise<Printed> {
  const about = await loadSession(row.session).then(
    (now) => now.doc.about,
    () => row.doc.about,
  );
  const { about: _, ...doc } = row.doc;
  return {
    ...{ doc: about ? { ...doc, about } : doc, proof, version: row.version },
    range: { start: row.start, end: row.end },
  };
}

/** The report of a finished print. Throws Refused where it is not finished. */
export async function printReport(id: string, kind: ReportKind): Promise<{ name: string; bytes: Buffer }> {
  const row = await rowOf(id);
  if (row.state !== 'done' || !row.proof) throw new Refused(409, 'Only a finished print has a report.');
  const name = `${safeName(row.doc.code)}_v${String(row.version).padStart(2, '0')}_${reportName(kind)}`;
  return { name, bytes: await reportAs(await printedOf(row, row.proof), kind) };
}

/**
 * A zip with the files, their SHA-256 list and a report; the files are stored, not packed. They are looked at whole
 * before the first byte goes out: an archive with a false checksum, or one that never ends, is none.
 */
export async function archive(id: string): Promise<{ name: string; stream: NodeJS.ReadableStream }> {
  const { row, proof, dir, parts } = await checkPrinted(id);
  const zip = new yazl.ZipFile();
  zip.on('error', (error: Error) => zip.outputStream.emit('error', error));
  for (const f of parts)
    zip.addReadStreamLazy(f.file, { compress: false, size: f.bytes }, (done) =>
      done(null, createReadStream(path.join(dir, f.file))),
    );
  zip.addBuffer(Buffer.from(parts.map((f) => `${f.sha256}  ${f.file}\n`).join('')), 'SHA256SUMS');
  const printed = await printedOf(row, proof);
  for (const kind of REPORT_KINDS) zip.addBuffer(await reportAs(printed, kind), reportName(kind));
  zip.end();
  return { name: `${safeName(row.doc.code)}_v${String(row.version).padStart(2, '0')}.zip`, stream: zip.outputStream };
}
