import { createReadStream } from 'node:fs';
import path from 'node:path';
import { Readable } from 'node:stream';
import { nanoid } from 'nanoid';
import { rangesOf, whatOf } from '@/core/print';
import type { EditJson } from '@/core/session';
import { isLayout, type LayoutId } from '@/core/speakers';
import { newKernels } from '../kernels';
import { convertAudio, importFile, openAudio, openFile } from '../media';
import { inScratch } from '../scratch';
import { loadSession } from '../sessions';
import { checkPrinted } from './archive';

type Back = Extract<EditJson, { type: 'bringPrintBack' }>;

const web = (file: string) => Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>;

/**
 * Takes the files of a print into the media of its session, and gives the edit that lays them out. Throws Refused where one
 * of them is not as it was printed.
 */
export async function bringBack(id: string): Promise<Back> {
  const { row, proof, dir } = await checkPrinted(id);
  const { doc } = await loadSession(row.session);
  const rows: Back['rows'] = [];
  await inScratch(async (scratch) => {
    const byFile = new Map<string, Back['rows'][number]>();
    for (const range of rangesOf(proof, row))
      for (const f of range.files) {
        // Objects are sources side by side, and no sound of a room.
        if (f.objects) continue;
        const d = row.doc.deliverables.find((x) => x.id === f.deliverable);
        const layout: LayoutId = f.layout && isLayout(f.layout) ? f.layout : d!.layout;
        const name = path.parse(f.file).name.replace(/_?\{.*\}/, '');
        const { media } = await importFile(
          row.session,
          `${name}.wav`,
          web(await asOne(dir, f.file, scratch)),
          doc.format,
        );
        const { unsaid: _, ...known } = media;
        const order = f.order && f.order !== 'wav' ? { order: f.order } : {};
        const what = `Print ${row.version}: ${f.what ?? whatOf(row.doc, d)}`.slice(0, 60);
        const of = byFile.get(f.deliverable) ?? { track: `print-${nanoid(8)}`, name: what, layout, clips: [] };
        byFile.set(f.deliverable, of);
        of.clips.push({
          id: `clip-${nanoid(8)}`,
          start: range.start,
          lead: Math.round(((f.lead ?? 0) * media.sampleRate) / f.facts.sampleRate),
          media: { ...known, ...order },
        });
      }
    rows.push(...byFile.values());
  });
  return { type: 'bringPrintBack', version: row.version, rows };
}

// One file a channel, or an AIFF, is put together again as the interleaved WAV that a track plays.
async function asOne(dir: string, name: string, scratch: string): Promise<string> {
  const file = path.join(dir, name);
  if (/\.wav$/.test(name) && !name.includes('{')) return file;
  const to = path.join(scratch, `${nanoid()}.wav`);
  const k = newKernels();
  const source = await openFile(file);
  try {
    const { format, sampleRate } = await openAudio(k, source);
    await convertAudio(k, source, to, { kind: 'wav', sampleRate, format, dither: false });
  } finally {
    await source.close();
  }
  return to;
}
