// The command line asks what the page asks, and says what is wrong instead of hanging.
import { execFile, execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freshDataFolder } from '../support/dataFolder';
import { FORMAT, monoTrack } from '../support/session';
import { newSession } from '@/core/session';

const removeFolder = freshDataFolder();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-cli-'));
const root = path.resolve(import.meta.dirname, '../..');

beforeAll(async () => {
  const database = await import('@/server/database');
  const sessions = await import('@/server/sessions');
  await database.openDatabase();
  for (const [id, to] of [
    ['whole', 'nar'],
    ['stray', 'ref'],
  ] as const) {
    await sessions.createSession(newSession(id, 'TS', { ...FORMAT }), id);
    await sessions.edit(id, `start-${id}`, [
      { ...monoTrack('a'), destination: to },
      { type: 'setRange', start: 0, end: 4800 },
    ]);
  }
  await database.closeDatabase();
}, 240_000);
afterAll(() => {
  removeFolder();
  rmSync(dir, { recursive: true, force: true });
});

/** What a command says and how it ends; one that hangs is ended and fails. */
function cli(...args: string[]): Promise<{ code: number; text: string }> {
  return new Promise((resolve, reject) =>
    execFile(
      process.execPath,
      [path.join(root, 'dist/workers/cli.mjs'), ...args],
      { cwd: root, timeout: 240_000 },
      (error, out, err) => {
        if (error?.killed) reject(new Error('it hangs'));
        else resolve({ code: typeof error?.code === 'number' ? error.code : 0, text: out + err });
      },
    ),
  );
}

describe('wide-room print', { timeout: 300_000 }, () => {
  it.each(['abc', '0', '-1', '1.5', ''])('refuses the version "%s" before anything is made', async (version) => {
    const out = path.join(dir, `v${version || 'none'}`);
    const said = await cli('print', 'whole', '--out', out, `--version=${version}`);
    expect(said.code).toBe(1);
    expect(said.text).toMatch(/--version takes a whole number from 1 on/);
    expect(readdirSync(dir)).not.toContain(path.basename(out));
  });
  it('says which folder cannot be made', async () => {
    const said = await cli('print', 'whole', '--out', '/proc/nope/prints');
    expect(said).toMatchObject({
      code: 1,
      text: expect.stringMatching(/folder \/proc\/nope could not be made.*nothing was printed/),
    });
  });
  it('asks what the page would ask, and prints knowingly all the same', async () => {
    const out = path.join(dir, 'stray');
    const refused = await cli('print', 'stray', '--out', out);
    expect(refused.code).toBe(1);
    expect(refused.text).toMatch(/stop: a reaches no stem.*--knowingly/s);
    expect(readdirSync(out)).toEqual([]);
    const printed = await cli('print', 'stray', '--out', out, '--knowingly');
    expect(printed).toMatchObject({ code: 0, text: expect.stringMatching(/no LUFS, no dBTP/) });
    expect(readdirSync(out).length).toBeGreaterThan(3);
    // What was passed by stands in the report, and the whole can be proved again by anyone.
    expect(readFileSync(path.join(out, 'report.txt'), 'utf8')).toMatch(/Passed by knowingly:\n {2}a reaches no stem/);
    execFileSync('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], { cwd: out });
    const again = await cli('verify', out);
    expect(again).toMatchObject({ code: 0, text: expect.stringMatching(/All of it is as it was proven/) });
    const twice = await cli('print', 'stray', '--out', out, '--knowingly', '--version', '2');
    expect(twice).toMatchObject({
      code: 1,
      text: expect.stringMatching(/SHA256SUMS is there already; nothing is overwritten/),
    });
    const [file] = readdirSync(out).filter((f) => f.endsWith('.wav'));
    const bytes = readFileSync(path.join(out, file!));
    bytes[bytes.length - 1]! ^= 1;
    writeFileSync(path.join(out, file!), bytes);
    const altered = await cli('verify', out);
    expect(altered).toMatchObject({ code: 1, text: expect.stringMatching(new RegExp(`WRONG  ${file}: was changed`)) });
    expect(await cli('verify', dir)).toMatchObject({
      code: 1,
      text: expect.stringMatching(/no SHA256SUMS: this is no print/),
    });
  });
});
