import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';

const here = import.meta.dirname;
const source = readdirSync(here)
  .filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts'))
  .map((f) => readFileSync(path.join(here, f), 'utf8'))
  .join('\n');
const page = readFileSync(path.join(here, '../../../docs/checks.md'), 'utf8');
const codes = (text: string, pattern: RegExp) => new Set([...text.matchAll(pattern)].map((m) => m[1]!));

it('every check’s code stands in docs/checks.md, and no other', () => {
  const made = new Set([...codes(source, /\bid: [`']([a-z-]+)/g), ...codes(source, /\badd\(\s*'([a-z-]+)',/g)]);
  expect(made.size).toBeGreaterThan(20);
  expect([...codes(page, /^\| `([a-z-]+)`/gm)].sort()).toEqual([...made].sort());
});
