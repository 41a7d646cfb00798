// Documents from outside are taken whole or refused in a sentence.
import { describe, expect, it } from 'vitest';
import { monoTrack, sessionWith, take } from '../../../tests/support/session';
import { EditRefused, STARTING_POINTS, wholeDocument, type SessionDoc } from '.';
import { demoClips, demoSession } from '../../../demo/scenario';
import { SCRIPT } from '../../../demo/script';
import { widthOf } from '@/core/speakers';

function demoDoc(): SessionDoc {
  const clips = demoClips(new Map(SCRIPT.map((_, i) => [i, new Float32Array(4_800)])));
  const layouts = new Map(demoSession([]).tracks.map((t) => [t.id, t.layout]));
  return demoSession(
    clips.map((c) => ({ ...c, media: c.file, frames: 4_800, channels: widthOf(layouts.get(c.track)!) })),
  );
}

const FORMAT = sessionWith().format;
const HOSTILE: unknown[] = [
  null,
  0,
  -1,
  1.5,
  1e308,
  'x',
  '',
  '__proto__',
  [],
  [null],
  [{}],
  {},
  true,
  'x'.repeat(100_000),
];

const good: [string, SessionDoc][] = [
  ['the demo', demoDoc()],
  ['a session with takes', sessionWith(monoTrack('a'), take('t', 'a', 0, 48_000))],
  ...STARTING_POINTS.map((s): [string, SessionDoc] => [s.name, s.make('N', 'N', { ...FORMAT, layout: s.layout })]),
];

it.each(good)('%s is whole', (_, doc) => {
  expect(wholeDocument(structuredClone(doc), 'session')).toEqual(doc);
});

/** Every member of a document, as the way to it; of lists only the first few. */
function* ways(value: unknown, way: (string | number)[] = []): Generator<(string | number)[]> {
  if (typeof value !== 'object' || value === null) return;
  for (const [key, part] of Object.entries(value).slice(0, Array.isArray(value) ? 2 : 60)) {
    yield [...way, key];
    yield* ways(part, [...way, key]);
  }
}

function spoiled(doc: SessionDoc, way: readonly (string | number)[], value: unknown): unknown {
  const copy = structuredClone(doc) as unknown as Record<string, unknown>;
  const holder = way.slice(0, -1).reduce((o, key) => o[key] as Record<string, unknown>, copy);
  if (value === undefined) delete holder[way.at(-1)!];
  else holder[way.at(-1)!] = value;
  return copy;
}

const readOrRefused = (json: unknown): boolean => {
  try {
    wholeDocument(json, 'session');
    return true;
  } catch (error) {
    expect(error).toBeInstanceOf(EditRefused);
    expect((error as Error).message).toMatch(
      /^The session is damaged: .+ Nothing was taken in\.$|was made by a later/s,
    );
    return false;
  }
};

describe('a document with one member that is something else', () => {
  const doc = demoDoc();
  const all = [...ways(doc)];
  it('is read or refused, nothing else', () => {
    expect(all.length).toBeGreaterThan(400);
    all.forEach((way, i) => readOrRefused(spoiled(doc, way, HOSTILE[i % HOSTILE.length])));
  });
  it('is refused where a list or a part became a text, or is missing', () => {
    for (const way of all.filter((w) => w.length <= 3)) {
      const part = way.reduce((o, key) => (o as Record<string, unknown>)[key], doc as unknown);
      if (typeof part === 'object' && part !== null)
        expect(readOrRefused(spoiled(doc, way, 'x')), way.join('.')).toBe(false);
    }
    for (const way of [
      'tracks',
      'buses',
      'lines',
      'media',
      'settings',
      'tempo',
      'cues',
      'lanes',
      'range',
      'format',
      'limits',
    ])
      expect(readOrRefused({ ...doc, [way]: undefined }), way).toBe(false);
  });
  it.each([
    ['a track that is empty', { tracks: [{}] }],
    ['no rate', { format: { ...doc.format, sampleRate: 0 } }],
    ['a form of the future', { version: 99 }],
    ['a member that no session has', { onload: 'x' }],
    [
      'a file at no rate',
      { media: { m: { id: 'm', name: 'm', channels: 1, frames: 1, sampleRate: 0, kind: 'file' } } },
    ],
  ])('is refused: %s', (_, members) => {
    expect(readOrRefused({ ...doc, ...members })).toBe(false);
  });
});

it.each([null, 1, 'x', [], {}, [[]], { version: 1 }, { version: 5, tracks: [] }])('%j is no document', (json) => {
  expect(readOrRefused(json)).toBe(false);
});
