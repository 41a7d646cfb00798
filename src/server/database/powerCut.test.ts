// Power cuts: unsynced pages are lost at random, and every acknowledged edit is there.
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { editUntilCut, losePages } from '../../../tests/support/powerCut';

const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-power-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

/** Repeatable numbers in [0, 1) (mulberry32, public domain). */
function numbers(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

it('every acknowledged edit outlives a power cut, from the first start on', { timeout: 600_000 }, async () => {
  const [live, durable] = [path.join(dir, 'live'), path.join(dir, 'durable')];
  mkdirSync(live);
  mkdirSync(durable);
  const random = numbers(7);
  let last = 0;
  let pages = 0;
  for (let cut = 0; cut < 4; cut++) {
    // The next run opens what the cut left: it finds all that was acknowledged, and goes on from there.
    const { acknowledged, took } = await editUntilCut(live, durable, 10 + Math.floor(random() * 25));
    expect(acknowledged - took.length, `after cut ${cut}`).toBeGreaterThanOrEqual(last);
    last = acknowledged;
    const lost = losePages(live, durable, random);
    pages += lost.lost;
  }
  expect(last).toBeGreaterThan(40);
  // The disk did lose something, or this proves nothing.
  expect(pages).toBeGreaterThan(10);
});
