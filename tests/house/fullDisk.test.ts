// The whole data folder on a disk that is full: every change is refused with that as the reason, nothing is half stored, and
// as soon as there is room everything goes on.
import { appendFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import type { SessionDoc } from '@/core/session';
import { canMount, smallDisk } from '../e2e/support/smallDisk';
import { freePort, Server } from '../support/server';

it.skipIf(!canMount())('a full disk is told as what it is, and costs nothing', { timeout: 300_000 }, async () => {
  const data = mkdtempSync(path.join(tmpdir(), 'wide-room-full-'));
  const disk = smallDisk(data, 160_000_000);
  let server: Server | null = null;
  try {
    const port = await freePort();
    server = new Server(port, data);
    await server.ready();
    const send = async (to: string, body: object) => {
      const response = await fetch(`http://127.0.0.1:${port}${to}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      });
      return { status: response.status, body: (await response.json()) as { id?: string; message?: string } };
    };
    const format = { sampleRate: 48_000, wordLength: 24, frameRate: '25', startTimecode: '10:00:00:00', layout: '5.1' };
    const { body } = await send('/api/sessions', { name: 'Full', code: 'FU', ...format });
    const edit = (id: string) =>
      send(`/api/sessions/${body.id}/edits`, {
        ...{ id, base: 0 },
        edits: [{ type: 'addTrack', id, name: id, layout: 'mono', destination: 'dia' }],
      });
    expect((await edit('before')).status).toBe(200);
    const fill = path.join(data, 'fill');
    expect(() => {
      for (;;) appendFileSync(fill, Buffer.alloc(65_536));
    }).toThrow(/ENOSPC/);
    // What the database has laid out already takes a few more.
    const kept = ['before'];
    let refused = await edit('first');
    for (let i = 0; refused.status === 200 && i < 2_000; i++) {
      kept.push(i === 0 ? 'first' : `more-${i - 1}`);
      refused = await edit(`more-${i}`);
    }
    expect(refused.status).toBe(507);
    expect(refused.body.message).toContain('The disk of the server is full. What was stored before is kept');
    rmSync(fill);
    expect((await edit('after')).status).toBe(200);
    // Also after a kill in that state.
    await server.kill();
    server = new Server(port, data);
    await server.ready();
    const open = (await (await fetch(`http://127.0.0.1:${port}/api/sessions/${body.id}`)).json()) as {
      doc: SessionDoc;
    };
    expect(open.doc.tracks.map((t) => t.id)).toEqual([...kept, 'after']);
  } finally {
    await server?.kill();
    disk.end();
    rmSync(data, { recursive: true, force: true });
  }
});
