// The documents that ship with the application, as pages.
import { createReadStream } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { Marked } from 'marked';
import { appDir } from '../config';
import { Refused } from '../http';

const NAME = /^[a-z][a-z-]*$/;
const PICTURE = /^[a-z][a-z-]*\.png$/;

const folder = (): string => path.join(appDir(), 'docs');

// Documents lead to each other and to their pictures by files; here these are addresses.
function addressOf(href: string): string {
  const picture = /^screenshots\/([a-z-]+\.png)$/.exec(href)?.[1];
  if (picture) return `/guide/pictures/${picture}`;
  const page = /^(?:docs\/)?([a-z-]+)\.md$/.exec(href)?.[1];
  return page ? `/guide/${page}` : href;
}

const marked = new Marked({
  walkTokens: (token) => {
    if (token.type === 'link' || token.type === 'image') token.href = addressOf(token.href as string);
  },
});

/** A document as HTML; null where there is none of that name. */
export async function guidePage(name: string): Promise<string | null> {
  if (!NAME.test(name)) return null;
  const text = await readFile(path.join(folder(), `${name}.md`), 'utf8').catch(() => null);
  return text === null ? null : marked.parse(text, { async: false });
}

/** A picture of the documents. Throws Refused where there is none of that name. */
export async function guidePicture(name: string): Promise<{ size: number; body: ReadableStream }> {
  const file = path.join(folder(), 'screenshots', name);
  const there = PICTURE.test(name) ? await stat(file).catch(() => null) : null;
  if (!there) throw new Refused(404, 'The guide has no such picture.');
  return { size: there.size, body: Readable.toWeb(createReadStream(file)) as ReadableStream };
}
