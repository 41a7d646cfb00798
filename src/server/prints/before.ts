import { beforePrinting, type Check } from '@/core/checks';
import { hullOf, printedDoc, printRanges } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { mediaPath } from '../config';
import { mediaOf, sourceChecks } from '../media';

/** Paths of a session's files by media. */
export const filesOf = async (session: string): Promise<Record<string, string>> =>
  Object.fromEntries((await mediaOf(session)).map((m) => [m.id, mediaPath(session, m.file)]));

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
