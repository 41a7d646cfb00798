import { readAs } from '@/core/session';
import { Refused } from './refused';

/** The largest document that anybody sends as JSON: a script, or the edits of a long timeline; files do not come so. */
const MOST_BYTES = 32 * 1024 * 1024;

/** Deepest nesting of a document that anybody sends; more would overrun whoever walks through it. */
const MOST_DEPTH = 64;

/** The body as a JSON object. Throws Refused for anything else, and before more of it is read than there may be. */
export async function body(request: Request): Promise<Record<string, unknown>> {
  const type = request.headers.get('content-type');
  if (type !== null && !/^(application\/json|text\/plain)\b/i.test(type))
    throw new Refused(415, 'The request must be JSON, and say so (Content-Type: application/json).');
  const text = await textOf(request);
  if (depthOf(text) > MOST_DEPTH)
    throw new Refused(400, `The request must be JSON of at most ${MOST_DEPTH} levels. Nothing was changed.`);
  const read = parsed(text);
  if (typeof read !== 'object' || read === null || Array.isArray(read))
    throw new Refused(400, 'The request must be a JSON object. Nothing was changed.');
  if (/\\u(0000|d[89a-f])/i.test(text) && !isText(read))
    throw new Refused(400, 'The request holds characters that no text has (NUL, or half a character).');
  return read as Record<string, unknown>;
}

/** The body, checked against the rules of a class. Throws Refused or EditRefused with every fault; `what` names it there. */
export const asked = async <T extends object>(request: Request, Class: new () => T, what: string): Promise<T> =>
  readAs(Class, await body(request), what);

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Refused(400, 'The request must be JSON.');
  }
}

// Before it is parsed, without recursion.
function depthOf(text: string): number {
  let depth = 0;
  let most = 0;
  for (const [sign] of text.matchAll(/"(?:[^"\\]|\\.)*"|[[{\]}]/gs)) {
    if (sign === '[' || sign === '{') most = Math.max(most, ++depth);
    else if (sign === ']' || sign === '}') depth--;
  }
  return most;
}

// The database keeps neither NUL nor halves of characters.
function isText(value: unknown): boolean {
  if (typeof value === 'string') return !value.includes('\0') && !/\p{Surrogate}/u.test(value);
  if (typeof value !== 'object' || value === null) return true;
  return Object.entries(value).every(([key, v]) => isText(key) && isText(v));
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
