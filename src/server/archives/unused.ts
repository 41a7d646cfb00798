import path from 'node:path';
import { and, eq, inArray, ne, or, sql } from 'drizzle-orm';
import type { SessionDoc } from '@/core/session';
import type { Unused } from '@/core/wire';
import { mediaPath, sessionDir } from '../config';
import { db, tables } from '../database';
import { diskPaths, mediaOf } from '../media';
import { removeKept, sizesIn } from '../objects';
import { forgetSteps, loadSession, tellOthers } from '../sessions';
import { inTurn } from '../turns';

interface Found extends Unused {
  media: string[];
  paths: string[];
  revisions: number[];
  automatic: string[];
}

// A file is used by the session as it is, by a version that was named, by a print that can be made again, by a picture, and
// by a take that is on its way.
async function find(session: string): Promise<Found> {
  const database = await db();
  const { versions: v, prints: p, recordings: r, edits: e } = tables;
  const { doc } = await loadSession(session);
  const kept = await database
    .select({ id: v.id, automatic: v.automatic, doc: v.doc })
    .from(v)
    .where(eq(v.session, session));
  const docs: SessionDoc[] = [
    doc,
    ...kept.filter((x) => !x.automatic).map((x) => x.doc),
    ...(
      await database
        .select({ doc: p.doc })
        .from(p)
        .where(and(eq(p.session, session), ne(p.state, 'removed')))
    ).map((x) => x.doc),
  ];
  const used = new Set(docs.flatMap((d) => Object.keys(d.media)));
  const open = await database
    .select({ id: r.id })
    .from(r)
    .where(and(eq(r.session, session), inArray(r.state, ['rolling', 'recovered'])));
  for (const { id } of open) for (const part of ['processed', 'dry']) used.add(`${id}-${part}`);
  const rows = (await mediaOf(session)).filter((m) => !used.has(m.id));
  const pictures = new Set(docs.flatMap((d) => (d.picture ? [path.basename(d.picture.file)] : [])));
  const dir = path.join(sessionDir(session), 'picture');
  const sizes = await sizesIn(sessionDir(session));
  const lost = [...sizes.keys()]
    .filter((file) => path.dirname(file) === dir)
    .map((file) => path.basename(file))
    .filter((name) => !pictures.has(name) && !name.startsWith('.'));
  const paths = [
    ...rows.flatMap((m) => diskPaths(mediaPath(session, m.file))),
    ...lost.map((name) => path.join(dir, name)),
  ];
  const words = [...rows.map((m) => m.id), ...lost];
  const revisions = words.length
    ? await database
        .select({ revision: e.revision })
        .from(e)
        .where(
          and(
            eq(e.session, session),
            ne(e.kind, 'aside'),
            or(
              ...words.map(
                (word) =>
                  sql`(position(${word} in ${e.patches}::text) > 0 or position(${word} in ${e.inverse}::text) > 0)`,
              ),
            ),
          ),
        )
    : [];
  const automatic = kept.filter((x) => x.automatic && rows.some((m) => m.id in x.doc.media));
  return {
    files: [...rows.map((m) => m.file), ...lost],
    bytes: paths.reduce((n, file) => n + (sizes.get(file) ?? 0), 0),
    steps: revisions.length,
    versions: automatic.length,
    automatic: automatic.map((x) => x.id),
    media: rows.map((m) => m.id),
    paths,
    revisions: revisions.map((x) => x.revision),
  };
}

/** Files of a session that nothing of it uses: not as it is, nor a version, nor a print that is kept. */
export async function unusedFiles(session: string): Promise<Unused> {
  const { files, bytes, steps, versions } = await find(session);
  return { files, bytes, steps, versions };
}

/** Removes them for good, and sets the steps aside that would need them: nobody can undo into silence. */
export function freeUnused(session: string): Promise<Unused> {
  return inTurn(`session ${session}`, async () => {
    const { media, paths, revisions, automatic, ...told } = await find(session);
    const database = await db();
    await database.transaction(async (to) => {
      const { edits: e, media: m, versions: v } = tables;
      if (revisions.length)
        await to
          .update(e)
          .set({ kind: 'aside' })
          .where(and(eq(e.session, session), inArray(e.revision, revisions)));
      if (automatic.length) await to.delete(v).where(inArray(v.id, automatic));
      if (media.length) await to.delete(m).where(inArray(m.id, media));
    });
    forgetSteps(session);
    tellOthers(session, { kind: 'forget' });
    await removeKept(paths);
    return told;
  });
}
