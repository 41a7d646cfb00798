import { beforePrinting, type Check } from '@/core/checks';
import { hullOf, printedDoc, printRanges } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { mediaHere, mediaOf, sourceChecks } from '../media';

/** Paths of the files that a document uses, by media; they are fetched where they lie elsewhere. */
export async function filesOf(session: string, doc: SessionDoc): Promise<Record<string, string>> {
  const files: Record<string, string> = {};
  for (const m of await mediaOf(session)) if (doc.media[m.id]) files[m.id] = await mediaHere(m);
  return files;
}

/** What must be passed by knowingly before a session is printed: on the page, here, and on the command line. */
export async function printStops(
  doc: SessionDoc,
  files: Record<string, string>,
): Promise<{ stops: Check[]; lacking: Record<string, string> }> {
  const ranges = printRanges(doc);
  const sources = ranges.length ? await sourceChecks(printedDoc(doc), files, hullOf(ranges)) : [];
  return {
    stops: [...beforePrinting(doc).filter((c) => c.grade === 'stop'), ...sources],
    lacking: Object.fromEntries(sources.map((c) => [c.id.slice('source/'.length), `${c.title}. ${c.why}`])),
  };
}
