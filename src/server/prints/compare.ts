import path from 'node:path';
import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { nanoid } from 'nanoid';
import { filePairs, type FileChange } from '@/core/print';
import { readAs, type EditJson } from '@/core/session';
import { IsString } from 'class-validator';
import { Refused } from '../http';
import { importFile } from '../media';
import { inScratch } from '../scratch';
import { loadSession } from '../sessions';
import { checkPrinted } from './archive';
import { onProofThread } from './proofThread';

class CompareForm {
  /** The print that it is compared with. */
  @IsString() with!: string;
}

/** Reads with which print one is compared. Throws EditRefused with what is wrong in it. */
export const readCompare = (json: unknown): string => readAs(CompareForm, json, 'what it is compared with').with;

async function both(id: string, other: string) {
  const [after, before] = [await checkPrinted(id), await checkPrinted(other)];
  if (after.row.session !== before.row.session)
    throw new Refused(422, 'Only prints of one session are compared with each other.');
  const of = ({ proof, row }: typeof after) => ({ proof, range: { start: row.start, end: row.end } });
  return { after, before, pairs: filePairs(of(before), of(after)) };
}

/** What changed from one print of a session to another, file by file. Throws Refused where one is not as it was printed. */
export async function comparePrints(id: string, other: string): Promise<FileChange[]> {
  const { after, before, pairs } = await both(id, other);
  return onProofThread<FileChange[]>({ kind: 'compare', pairs, before: before.dir, after: after.dir });
}

/**
 * What is left of the reference of a print where that of another is taken from it, as a file of the session; the edit that lays it
 * out beside the prints that are back in. Throws Refused where they cannot be laid over each other.
 */
export async function hearDifference(id: string, other: string): Promise<EditJson> {
  const { after, before, pairs } = await both(id, other);
  const reference = after.row.doc.buses.find((b) => b.kind === 'reference');
  const wanted = pairs.find(
    ({ after: f }) => after.row.doc.deliverables.find((d) => d.id === f?.deliverable)?.bus === reference?.id,
  );
  const printed = wanted?.after;
  if (!printed || !wanted.before || !reference)
    throw new Refused(422, 'The reference is not printed in both of them, so there is no difference to hear.');
  return inScratch(async (scratch) => {
    const to = path.join(scratch, `difference-${after.row.version}-${before.row.version}.wav`);
    await onProofThread({ kind: 'difference', pairs: [wanted], before: before.dir, after: after.dir, to });
    const { doc } = await loadSession(after.row.session);
    const stream = Readable.toWeb(createReadStream(to)) as ReadableStream<Uint8Array>;
    const { media } = await importFile(after.row.session, path.basename(to), stream, doc.format);
    const { unsaid: _, ...known } = media;
    const range = after.proof.ranges?.find((r) => r.name === wanted.range) ?? after.row;
    return {
      type: 'bringPrintBack',
      version: after.row.version,
      rows: [
        {
          track: `print-${nanoid(8)}`,
          name: `Print ${after.row.version} less print ${before.row.version}`,
          layout: printed.layout ?? reference.layout,
          clips: [{ id: `clip-${nanoid(8)}`, start: range.start, lead: 0, media: known }],
        },
      ],
    };
  });
}
