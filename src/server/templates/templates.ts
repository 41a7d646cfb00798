import path from 'node:path';
import { desc, eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { safeName } from '@/core/print';
import {
  asTemplate,
  atRate,
  STARTING_POINTS,
  upgradeDoc,
  type MediaRef,
  type NewSession,
  type SessionDoc,
} from '@/core/session';
import type { TemplateFacts } from '@/core/wire';
import { dataDir, makeSessionDir, mediaPath, sessionDir } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { copyMedia, mediaHere, mediaOf, toRate, toRef } from '../media';
import { fetchFolder, keepFolder, removeFolder } from '../objects';
import { createSession, loadSession } from '../sessions';
import { making } from '../unfinished';

const t = tables.templates;
export type TemplateRow = typeof t.$inferSelect;

export const templateDir = (id: string): string => path.join(dataDir(), 'templates', id);

export async function listTemplates(): Promise<TemplateFacts[]> {
  const rows = await (await db()).select().from(t).orderBy(desc(t.at));
  const own = rows.map((r) => ({
    id: r.id,
    name: r.name,
    category: r.category,
    note: `${r.doc.tracks.length} tracks, ${r.doc.buses.length} buses`,
    shipped: false,
    files: Object.keys(r.files).length,
    doc: upgradeDoc(r.doc),
  }));
  const shipped = STARTING_POINTS.map((s) => ({
    id: s.id,
    name: s.name,
    category: s.category,
    note: s.note,
    shipped: true,
    files: 0,
    doc: s.make('', s.id, formatFor(s.layout)),
  }));
  return [...own, ...shipped];
}

const formatFor = (layout: SessionDoc['format']['layout']): SessionDoc['format'] => ({
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout,
});

export async function templateRow(id: string): Promise<TemplateRow> {
  const [row] = await (await db()).select().from(t).where(eq(t.id, id));
  if (!row) throw new Refused(404, `There is no template "${id}" any more.`);
  return { ...row, doc: upgradeDoc(row.doc) };
}

/** Keeps a session's set-up as a template, with copies of the files it uses when `media` is true. */
export async function keepTemplate(
  session: string,
  asked: { name: string; category: string; media: boolean },
): Promise<{ id: string }> {
  const name = asked.name.trim().slice(0, 80);
  if (!name) throw new Refused(422, 'Give the template a name; nothing was kept yet.');
  const { doc } = await loadSession(session);
  const kept = asTemplate(doc, asked.media);
  const id = nanoid(10);
  const files: Record<string, string> = {};
  const dir = templateDir(id);
  await making(dir, async () => {
    // Room tones belong to the set-up even where clips do not.
    for (const row of await mediaOf(session))
      if (kept.media[row.id]) {
        files[row.id] = row.file;
        copyMedia(await mediaHere(row), path.join(dir, row.file));
      }
    await keepFolder(dir);
    await (await db()).insert(t).values({ id, name, category: asked.category.trim() || 'own', doc: kept, files });
  });
  return { id };
}

export async function removeTemplate(id: string): Promise<void> {
  await templateRow(id);
  await (await db()).delete(t).where(eq(t.id, id));
  await removeFolder(templateDir(id));
}

/** How far the making of a session has come: files that are in, how many there are, and the one that comes now. */
export interface Making {
  done: number;
  total: number;
  name: string;
}

/**
 * A new session from a template, in the format that is asked; its files are converted where the rate differs. Given up,
 * it throws the signal's reason and leaves nothing behind.
 */
export async function sessionFromTemplate(
  id: string,
  asked: NewSession,
  onMaking: (making: Making) => void = () => {},
  signal?: AbortSignal,
): Promise<string> {
  const point = STARTING_POINTS.find((s) => s.id === id);
  if (point) return createSession(point.make(asked.name, asked.code, asked.format()));
  const row = await templateRow(id);
  const session = nanoid(10);
  return making(sessionDir(session), async () => {
    const media = await takeFiles(session, row, asked.sampleRate, onMaking, signal);
    const doc = inFormat(row.doc, asked, media);
    await createSession(doc, session, [...media.values()]);
    return session;
  });
}

/** The template's document in the format that is asked, with the files that were made of its own. */
function inFormat(template: SessionDoc, asked: NewSession, media: ReadonlyMap<string, MediaRef>): SessionDoc {
  const doc =
    template.format.sampleRate === asked.sampleRate
      ? { ...template, ...pointed(template, media) }
      : atRate(template, asked.sampleRate, media);
  const wider = doc.format.layout;
  return {
    ...doc,
    name: asked.name,
    code: asked.code,
    format: { ...asked.format(), fileKind: doc.format.fileKind, perChannel: doc.format.perChannel ?? false },
    buses: doc.buses.map((b) => (b.layout === wider ? { ...b, layout: asked.layout } : b)),
    deliverables: doc.deliverables.map((d) => (d.layout === wider ? { ...d, layout: asked.layout } : d)),
  };
}

/** Clips, takes and room tones pointed to the copies of their files. */
function pointed(
  doc: SessionDoc,
  media: ReadonlyMap<string, MediaRef>,
): Pick<SessionDoc, 'media' | 'tracks' | 'shelf'> {
  return {
    media: Object.fromEntries([...media.values()].map((m) => [m.id, m])),
    tracks: doc.tracks.map((track) => ({
      ...track,
      clips: track.clips.flatMap((c) => {
        const file = media.get(c.media);
        return file ? [{ ...c, media: file.id }] : [];
      }),
    })),
    shelf: doc.shelf.flatMap((tone) => {
      const file = media.get(tone.media);
      return file ? [{ ...tone, media: file.id }] : [];
    }),
  };
}

async function takeFiles(
  session: string,
  row: TemplateRow,
  rate: number,
  onMaking: (making: Making) => void,
  signal?: AbortSignal,
): Promise<Map<string, MediaRef>> {
  const made = new Map<string, MediaRef>();
  makeSessionDir(session);
  await fetchFolder(templateDir(row.id));
  const files = Object.entries(row.files);
  for (const [i, [id, file]] of files.entries()) {
    signal?.throwIfAborted();
    onMaking({ done: i, total: files.length, name: file });
    const ref = row.doc.media[id];
    if (!ref) continue;
    const from = path.join(templateDir(row.id), file);
    let name = file;
    let frames = ref.frames;
    if (ref.sampleRate === rate) copyMedia(from, mediaPath(session, file));
    else {
      name = `${safeName(path.parse(file).name)}.wav`;
      frames = await toRate(from, mediaPath(session, name), rate);
    }
    made.set(
      id,
      toRef({ id: nanoid(12), session, file: name, kind: ref.kind, channels: ref.channels, frames, sampleRate: rate }),
    );
  }
  return made;
}
