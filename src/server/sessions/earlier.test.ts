// Data of an earlier release (documents of form 1, as tests/fixtures/makeDataOf.ts had that release write them): opened,
// undone step by step, gone back to, begun from.
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { DOC_VERSION, faultOf, NewSession, readAs, upgradeDoc, type SessionDoc } from '@/core/session';
import { FORMAT } from '../../../tests/support/session';
import { compilePlan } from '@/core/engine';
import { newKernels } from '../../../tests/support/kernels';
import { closeDatabase, openDatabase, tables } from '../database';
import { sessionFromTemplate } from '../templates';
import { edit, listVersions, loadSession, restoreVersion, travel } from '.';

const remove = freshDataFolder();
const k = newKernels();
type Row = Record<string, unknown>;
const rows = JSON.parse(readFileSync(new URL('../../../tests/fixtures/form1.json', import.meta.url), 'utf8')) as Record<
  'sessions' | 'edits' | 'versions' | 'templates',
  Row[]
>;

beforeAll(async () => {
  const db = await openDatabase();
  const dated = (row: Row) =>
    Object.fromEntries(
      Object.entries(row).map(([key, v]) => [key, key === 'at' || key === 'createdAt' ? new Date(v as string) : v]),
    );
  for (const name of ['sessions', 'edits', 'versions', 'templates'] as const)
    for (const row of rows[name]) await db.insert(tables[name]).values(dated(row) as never);
});
afterAll(async () => {
  await closeDatabase();
  remove();
});

/** In the present form, sound, and a plan can be made of it. */
function whole(doc: SessionDoc): SessionDoc {
  expect(doc.version).toBe(DOC_VERSION);
  expect(faultOf(null, doc)).toBeNull();
  expect(doc.lanes).toEqual({});
  for (const node of [...doc.tracks, ...doc.buses]) expect(node.sends).toEqual([]);
  for (const bus of doc.buses) {
    expect(bus.trim).toBe(0);
    expect(bus.leftOut).toEqual([]);
  }
  expect(compilePlan(k, doc, { mode: 'print' }).nodes.length).toBeGreaterThanOrEqual(doc.buses.length);
  return doc;
}
const now = async () => whole((await loadSession('lamp')).doc);

describe('data of an earlier release', () => {
  it('is of an earlier form', () => {
    expect((rows.sessions[0]!.doc as SessionDoc).version).toBe(1);
    expect((rows.sessions[0]!.doc as SessionDoc).buses[0]!.sends).toBeUndefined();
  });
  it('opens, with everything as it was', async () => {
    const doc = await now();
    expect(doc.tracks.map((t) => t.id)).toEqual(['pilot', 'boat']);
    expect(doc.tracks[0]).toMatchObject({ level: -3.5, muted: true });
    expect(doc.buses.map((b) => b.id)).toContain('fol');
    expect(doc.buses.find((b) => b.id === 'hall')).toMatchObject({ throughSolo: true, rooms: 'shared' });
  });
  it('goes back step by step and forward again; what comes back has the present form', async () => {
    const states: string[] = [JSON.stringify(await now())];
    for (let steps = 0; steps < 30; steps++) {
      const undone = await travel('lamp', 'undo').catch((error: Error) => error);
      if (undone instanceof Error) {
        expect(undone.message).toMatch(/nothing left to undo/);
        break;
      }
      states.push(JSON.stringify(await now()));
    }
    // The first state had no track; on the way keeper and the crowd were there again.
    expect(states.length).toBeGreaterThan(8);
    expect((await now()).tracks).toEqual([]);
    expect(states.some((s) => s.includes('"keeper"'))).toBe(true);
    expect(states.some((s) => s.includes('"crowd"'))).toBe(true);
    for (const state of states.slice(0, -1).reverse()) {
      await travel('lamp', 'redo');
      expect(JSON.parse(JSON.stringify(await now()))).toEqual(JSON.parse(state));
    }
  });
  it('tells every window what the steps add', async () => {
    // A window that follows by patches alone ends where the server is.
    const before = await now();
    const change = await travel('lamp', 'undo');
    const { patchDoc } = await import('@/core/session');
    expect(patchDoc(before, change.patches)).toEqual(await now());
    await travel('lamp', 'redo');
  });
  it('is worked on with what is new', async () => {
    await edit('lamp', 'new-1', [{ type: 'addSend', owner: 'pilot', id: 's', to: 'hall', level: -6 }]);
    expect((await loadSession('lamp')).doc.tracks[0]!.sends).toHaveLength(1);
    await travel('lamp', 'undo');
    await now();
  });
  it('has versions to go back to and templates to begin from', async () => {
    const version = (await listVersions('lamp')).find((v) => v.name === 'As agreed')!;
    await restoreVersion('lamp', version.id);
    expect((await now()).tracks.map((t) => t.id)).toEqual(['pilot', 'boat', 'keeper']);
    await travel('lamp', 'undo');
    const { fileKind: _kind, ...format } = FORMAT;
    const asked = readAs(NewSession, { ...format, name: 'Next one', code: 'NO' }, 'New session');
    const id = await sessionFromTemplate(rows.templates[0]!.id as string, asked);
    whole((await loadSession(id)).doc);
  });
  it('of a later release is left alone, with a sentence that says so', () => {
    const later = { ...(rows.sessions[0]!.doc as SessionDoc), version: DOC_VERSION + 1 };
    expect(() => upgradeDoc(later)).toThrow(/made by a later release .* left as it is; open it with that release/);
  });
});
