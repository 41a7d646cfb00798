import { Refused } from './refused';

/** The largest document that anybody sends as JSON: a script, or the edits of a long timeline; files do not come so. */
const MOST_BYTES = 32 * 1024 * 1024;

/** The body as JSON. Throws Refused for anything else, and before more of it is read than there may be. */
export async function body(request: Request): Promise<unknown> {
  const text = await textOf(request);
  try {
    return JSON.parse(text);
  } catch {
    throw new Refused(400, 'The request must be JSON.');
  }
}

async function textOf(request: Request): Promise<string> {
  const bytes = await bytesOf(
    request,
    MOST_BYTES,
    `A request may hold ${MOST_BYTES / 1024 / 1024} MB of JSON; this one is larger. Nothing was changed.`,
  );
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Refused(400, 'The request must be JSON in UTF-8.');
  }
}

/** The body's bytes. Throws Refused with `why` as soon as there are more of them than `most`; the rest is not read. */
export async function bytesOf(request: Request, most: number, why: string): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  const reader = request.body?.getReader();
  for (let read = await reader?.read(); read && !read.done; read = await reader!.read()) {
    bytes += read.value.byteLength;
    if (bytes > most) {
      await reader!.cancel();
      throw new Refused(413, why);
    }
    parts.push(read.value);
  }
  return new Uint8Array(Buffer.concat(parts));
}
