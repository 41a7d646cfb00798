// Whatever is sent, an edit is made whole or refused in a sentence, and the session can be relied on.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mono, monoTrack, sessionWith, take } from '../../../tests/support/session';
import {
  applyEdit,
  EditRefused,
  EDIT_NAMES,
  faultOf,
  isId,
  patchDoc,
  readEdit,
  type EditJson,
  type SessionDoc,
} from '.';

const doc = sessionWith(
  monoTrack('a'),
  monoTrack('b'),
  { type: 'addTrack', id: 's', name: 'S', layout: 'stereo', destination: 'efx' },
  { type: 'addLine', device: 'dev', channel: 0, name: 'One' },
  { type: 'patch', track: 'a', channel: 0, line: 'dev/1' },
  take('t1', 'a', 0, 48_000),
  take('t2', 'a', 10_000, 20_000),
  { type: 'addClip', id: 'c', track: 'b', start: 1_000, media: mono('m', 9_000) },
  { type: 'addRoomTone', id: 'tone', name: 'Tone', media: mono('q', 4_000) },
  { type: 'addCues', cues: [{ id: 'q1', number: '1', start: 0, end: 100, character: 'P', text: 'Mind the gauge.' }] },
  { type: 'setMarker', marker: 'k', at: 5, name: 'Here' },
);

const known = [
  'a',
  'b',
  's',
  'nar',
  'dia',
  'ref',
  'monitor',
  'dev/1',
  'dev',
  't1',
  't2',
  'clip-t1',
  'c',
  'm',
  'q1',
  'k',
  'tone',
  'lowCut',
  'stem-nar',
];
const bad = ['__proto__', 'constructor', 'toString', 'nobody', '', '../x', 'a b'];
const id = fc.constantFrom(...known, ...bad);
const number = fc.oneof(
  fc.integer({ min: -10, max: 60_000 }),
  fc.double(),
  fc.constantFrom(NaN, Infinity, -Infinity, 1e300, 2 ** 53, 2 ** 31, -1, 0.5, 2 ** 53 - 1),
);
const facts = fc.record({
  id,
  name: fc.constantFrom('x_T01.wav', 'y'),
  channels: fc.constantFrom(0, 1, 2, 6),
  frames: number,
  sampleRate: fc.constantFrom(48_000, 44_100, 1),
  kind: fc.constantFrom('file', 'take', 'dry', 'none'),
});
const value: fc.Arbitrary<unknown> = fc.oneof(
  id,
  number,
  fc.boolean(),
  fc.constant(null),
  fc.array(id, { maxLength: 3 }),
  facts,
  fc.record({ kind: fc.constantFrom('track', 'bus', 'line', 'x'), id }),
  fc.dictionary(fc.constantFrom('ceiling', 'frequency', 'gain', '__proto__', 'x'), number, { maxKeys: 3 }),
  fc.record({ frames: number, curve: fc.constantFrom('power', 'even', 'none') }),
  fc.record({ azimuth: number, distance: number, width: number, lfe: number }),
  fc.array(
    fc.record({ id, type: fc.constantFrom('lowCut', 'gate', 'none'), on: fc.boolean(), values: fc.constant({}) }),
    {
      maxLength: 2,
    },
  ),
  fc.array(fc.record({ at: number, frames: number }), { maxLength: 2 }),
);
/** Members that any edit has; each edit takes those of its own. */
const MEMBERS = [
  'id',
  'track',
  'tracks',
  'bus',
  'clip',
  'clips',
  'take',
  'media',
  'dry',
  'start',
  'end',
  'length',
  'frames',
  'at',
  'by',
  'level',
  'gain',
  'gainBy',
  'name',
  'layout',
  'destination',
  'channel',
  'line',
  'lines',
  'owner',
  'stage',
  'values',
  'chain',
  'chains',
  'to',
  'cues',
  'cue',
  'number',
  'marker',
  'tone',
  'tones',
  'placement',
  'order',
  'comp',
  'begin',
  'joint',
  'fadeIn',
  'times',
  'every',
  'rows',
  'copies',
  'muted',
  'locked',
  'on',
  'gaps',
  'show',
  'recordedAt',
  'recovered',
  'device',
  'deliverable',
  'token',
  'instead',
  'text',
  'character',
  'key',
  'range',
  'code',
  'wordLength',
  'sampleRate',
] as const;
/** Of each edit, members that it knows: found by asking which ones it refuses as unknown. */
function membersOf(type: string): string[] {
  const all = Object.fromEntries(MEMBERS.map((m) => [m, Symbol.for('x').toString()]));
  try {
    readEdit({ type, ...all });
    return [...MEMBERS];
  } catch (error) {
    const said = (error as Error).message;
    return MEMBERS.filter((m) => !said.includes(`property ${m} should not exist`));
  }
}

/** A copy in which members that hold nothing are left out, and every figure is as it was. */
const withoutUndefined = (x: unknown): unknown =>
  Array.isArray(x)
    ? x.map(withoutUndefined)
    : typeof x === 'object' && x !== null
      ? Object.fromEntries(Object.entries(x).flatMap(([k, v]) => (v === undefined ? [] : [[k, withoutUndefined(v)]])))
      : x;

describe.each(EDIT_NAMES)('%s', (type) => {
  it('with any members is made whole or refused in a sentence', () => {
    const members = membersOf(type);
    const any = fc.record(Object.fromEntries(members.map((m) => [m, value])), { requiredKeys: [] });
    fc.assert(
      fc.property(any, (fields) => {
        const json = { type, ...fields } as unknown as EditJson;
        let made: { doc: SessionDoc; inverse: Parameters<typeof patchDoc>[1] };
        try {
          made = applyEdit(doc, readEdit(json));
        } catch (error) {
          expect(error).toBeInstanceOf(EditRefused);
          expect((error as Error).message).toMatch(/^.{8,}/);
          return;
        }
        expect(faultOf(null, made.doc)).toBeNull();
        // What is stored comes back as it was: no figure in it becomes another on the way to a file or through a wire.
        expect(JSON.parse(JSON.stringify(made.doc))).toEqual(withoutUndefined(made.doc));
        expect(Object.keys(Object.prototype)).toEqual([]);
        expect(patchDoc(made.doc, made.inverse)).toEqual(doc);
      }),
      { numRuns: 120, seed: 11 },
    );
  });
});

describe('ids', () => {
  it.each(['__proto__', 'constructor', 'hasOwnProperty', 'valueOf', '', 'a b', 'x'.repeat(81), null, 7])(
    '%s is none',
    (text) => {
      expect(isId(text)).toBe(false);
    },
  );
  it.each(['a', 'dev/1', 'clip-t1~t2', 'console:3'])('%s is one', (text) => expect(isId(text)).toBe(true));
  it('a file called like a member of every object is not found', () => {
    expect(() => applyEdit(doc, readEdit({ type: 'nameMedia', media: '__proto__', name: 'x' }))).toThrow(
      /must be an id/,
    );
    expect(({} as { name?: string }).name).toBeUndefined();
  });
});

describe('edits that were accepted and must not be', () => {
  const recorded = { ...take('t9', 'a', 0, 10) } as EditJson & { type: 'addTake' };
  it.each<[string, EditJson, RegExp]>([
    ['a take that is there already', take('t1', 'a', 0, 48_000), /on its track already/],
    ['a take without samples', { ...recorded, media: { ...recorded.media, frames: 0 } }, /no file of it|no length/],
    ['a take of another width', { ...recorded, track: 's' }, /has 1 channels, S is stereo/],
    [
      'a take with a stage that is none',
      { ...recorded, chains: [[{ id: 'x', type: 'magic', on: true, values: {} }]] },
      /no stage "magic"/,
    ],
    ['a take with a gap outside it', { ...recorded, gaps: [{ at: 5, frames: 6 }] }, /gap outside/],
    ['a take longer than any number holds', { ...recorded, start: 2 ** 60 }, /timeline/],
    ['a lengthened take that is not there', { type: 'lengthenTake', take: 'nobody', frames: 5 }, /not in the session/],
    ['a take that would become shorter', { type: 'lengthenTake', take: 't1', frames: 5 }, /does not become shorter/],
    [
      'many clips of which one is not there',
      { type: 'shapeClips', clips: ['c', 'nobody'], muted: true },
      /not in the session/,
    ],
    ['a cue that is not there', { type: 'removeCues', cues: ['nobody'] }, /not in the script/],
    ['a marker that is not there', { type: 'removeMarker', marker: 'nobody' }, /not in the session/],
    ['a file that is not there', { type: 'removeMedia', media: ['nobody'] }, /not in the session/],
    ['an order that names a track twice', { type: 'orderTracks', order: ['a', 'a', 'b', 's'] }, /twice/],
    ['a clip id that is used', { type: 'addClip', id: 'c', track: 'a', start: 0, media: mono('m2', 10) }, /twice/],
  ])('%s', (_, json, message) => {
    const before = JSON.stringify(doc);
    expect(() => applyEdit(doc, readEdit(json))).toThrow(message);
    expect(() => applyEdit(doc, readEdit(json))).toThrow(EditRefused);
    expect(JSON.stringify(doc)).toBe(before);
  });
});
