import { asc, eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { newSession, readEdit, applyEdit, type Stage } from '@/core/session';
import type { PresetFacts } from '@/core/wire';
import { db, tables } from '../database';
import { Refused } from '../http';

const p = tables.presets;

export async function listPresets(): Promise<PresetFacts[]> {
  const rows = await (await db()).select().from(p).orderBy(asc(p.category), asc(p.name));
  return rows.map(({ id, name, category, stage, chain }) => ({ id, name, category, stage, chain }));
}

// The session's own rules decide what a chain is.
function checked(chain: unknown): Stage[] {
  const scratch = newSession('x', 'X', {
    sampleRate: 48000,
    wordLength: 24,
    fileKind: 'Broadcast WAV',
    frameRate: '25',
    startTimecode: '00:00:00:00',
    layout: 'stereo',
  });
  const edit = readEdit({ type: 'setChain', owner: { kind: 'bus', id: 'ref' }, chain });
  const { doc } = applyEdit(scratch, edit);
  return doc.buses.find((b) => b.id === 'ref')!.chain;
}

/** Keeps a chain, or one stage, under a name. The same name of the same kind is written over. */
export async function keepPreset(asked: {
  name?: unknown;
  category?: unknown;
  stage?: unknown;
  chain?: unknown;
}): Promise<PresetFacts> {
  const name = typeof asked.name === 'string' ? asked.name.trim().slice(0, 60) : '';
  if (!name) throw new Refused(422, 'Give the preset a name; nothing was kept yet.');
  const category =
    typeof asked.category === 'string' && asked.category.trim() ? asked.category.trim().slice(0, 40) : 'own';
  const chain = checked(asked.chain);
  const stage = typeof asked.stage === 'string' ? asked.stage : null;
  if (stage !== null && (chain.length !== 1 || chain[0]!.type !== stage))
    throw new Refused(422, `A preset of a stage holds that stage and nothing else; nothing was kept.`);
  const same = (await listPresets()).find((o) => o.name === name && o.stage === stage);
  const row = { id: same?.id ?? nanoid(10), name, category, stage, chain };
  await (await db()).insert(p).values(row).onConflictDoUpdate({ target: p.id, set: { category, chain } });
  return row;
}

export async function removePreset(id: string): Promise<void> {
  await (await db()).delete(p).where(eq(p.id, id));
}

/** Takes presets from an exported file in; the same rules as for own ones. */
export async function importPresets(json: unknown): Promise<{ taken: number }> {
  const file = json as { format?: unknown; presets?: unknown };
  if (file?.format !== 'wide-room-presets' || !Array.isArray(file.presets))
    throw new Refused(422, 'This is no file of presets of Wide Room; nothing was taken in.');
  // All are read before the first is kept.
  for (const one of file.presets as { chain?: unknown }[]) checked(one?.chain);
  for (const one of file.presets as object[]) await keepPreset(one);
  return { taken: file.presets.length };
}
