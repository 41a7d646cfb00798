import { createReadStream, createWriteStream, statSync } from 'node:fs';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { nanoid } from 'nanoid';
import yazl from 'yazl';
import { partNames } from '@/core/files';
import { safeName } from '@/core/print';
import { entryOf, readTemplate, STARTING_POINTS, type MediaRef, type TemplateFile } from '@/core/session';
import { db, tables } from '../database';
import { asLargeAsItsSound, entriesOf, inZip, roomFor } from '../archives';
import { Refused } from '../http';
import { unlike } from '../media';
import { fetchFolder, keepFolder } from '../objects';
import { making } from '../unfinished';
import { templateDir, templateRow } from './templates';

/** A template as one ZIP file: template.json and the sound files under media/. */
export async function templateArchive(id: string): Promise<{ name: string; stream: NodeJS.ReadableStream }> {
  if (STARTING_POINTS.some((s) => s.id === id))
    throw new Refused(409, 'This template ships with every Wide Room; there is nothing to export.');
  const row = await templateRow(id);
  await fetchFolder(templateDir(id));
  const zip = new yazl.ZipFile();
  const description: TemplateFile = {
    format: 'wide-room-template',
    version: 1,
    name: row.name,
    category: row.category,
    session: row.doc,
    files: row.files,
  };
  zip.addBuffer(Buffer.from(JSON.stringify(description, null, 2)), 'template.json');
  for (const file of Object.values(row.files).flatMap(partNames)) {
    const from = path.join(templateDir(id), file);
    zip.addReadStreamLazy(`media/${file}`, { compress: false, size: statSync(from).size }, (done) =>
      done(null, createReadStream(from)),
    );
  }
  zip.end();
  return { name: `${safeName(row.name)}.wide-room.zip`, stream: zip.outputStream };
}

const MOST_DESCRIPTION = 64 << 20;

/** Takes a template file in. Throws EditRefused or Refused, and keeps nothing, when it is no good one. */
export function importTemplate(file: string): Promise<{ id: string; name: string }> {
  return inZip(file, 'a template of Wide Room', async (zip) => {
    const id = nanoid(10);
    const dir = templateDir(id);
    const entries = await entriesOf(zip);
    const head = entries.get('template.json');
    if (!head || head.uncompressedSize > MOST_DESCRIPTION)
      throw new Refused(422, 'The archive holds no template.json; nothing was taken in.');
    const found = readTemplate((await bytesOf(await zip.openReadStreamPromise(head))).toString('utf8'));
    const wanted = Object.entries(found.files).flatMap(([media, file]) =>
      partNames(file).map((name) => {
        const entry = entries.get(`media/${name}`);
        if (!entry) throw new Refused(422, `The template lacks its file media/${name}; nothing was taken in.`);
        asLargeAsItsSound(entry, soundOf(found, media));
        return { entry, name };
      }),
    );
    await roomFor(wanted.reduce((n, w) => n + w.entry.uncompressedSize, 0));
    return await making(dir, async () => {
      for (const { entry, name } of wanted)
        await pipeline(
          await zip.openReadStreamPromise(entry),
          createWriteStream(path.join(dir, name), { flags: 'wx' }),
        );
      for (const [media, file] of Object.entries(found.files)) {
        const other = await unlike(path.join(dir, file), soundOf(found, media));
        if (other.length)
          throw new Refused(422, `The template's media/${file} has ${other.join(', ')}; nothing was taken in.`);
      }
      await keepFolder(dir);
      await (
        await db()
      )
        .insert(tables.templates)
        .values({ id, name: found.name, category: found.category, doc: found.session, files: found.files });
      return { id, name: found.name };
    });
  });
}

function soundOf(found: TemplateFile, media: string): MediaRef {
  const known = entryOf(found.session.media, media);
  if (!known)
    throw new Refused(422, `The template has a file for "${media}", which it does not know; nothing was taken in.`);
  return known;
}

async function bytesOf(stream: Readable): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}
