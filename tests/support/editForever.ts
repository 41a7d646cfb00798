// Opens the database and makes edits until it is killed; says each one once it is acknowledged.
import { applied, FORMAT } from './session';
import { newSession } from '@/core/session';

const database = await import('@/server/database');
const sessions = await import('@/server/sessions');
const say = (text: string) => process.stdout.write(`${text}\n`);
await database.openDatabase();
const id = 'kept';
const known = await sessions.openSession(id).catch(() => null);
if (!known) await sessions.createSession(applied(newSession('Kept', 'KP', { ...FORMAT })), id);
say('open');
for (let i = (known?.doc.markers.length ?? 0) + 1; ; i++) {
  const began = performance.now();
  await sessions.edit(id, `edit-${i}`, [{ type: 'setMarker', marker: `m${i}`, at: i, name: `Marker ${i}` }]);
  say(`edit ${i} ${(performance.now() - began).toFixed(1)}`);
}
