import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import type { DeviceState } from '@/client';
import {
  applyEdit,
  moveCord,
  newSession,
  patchEdits,
  readEdit,
  replacedText,
  swapLines,
  type EditJson,
  type SessionDoc,
} from '@/core/session';
import { patchInOrder, readPatch } from './patching';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const doc = apply(
  newSession('Test', 'TS', { ...FORMAT }),
  { type: 'addTrack', id: 'p', name: 'Pilot', layout: 'mono', destination: null },
  { type: 'addTrack', id: 'b', name: 'Boat', layout: 'stereo', destination: null },
  { type: 'addTrack', id: 's', name: 'Surf', layout: '5.1', destination: null },
);
const device = {
  id: 'eight',
  name: 'Eight lines',
  sheets: [] as DeviceState['sheets'],
  lines: Array.from({ length: 8 }, (_, i) => `Line ${i + 1}`),
} as Partial<DeviceState> as DeviceState;
const inputs = (text: string, from = doc) => {
  const after = apply(from, ...readPatch(from, device, text));
  return Object.fromEntries(after.tracks.map((t) => [t.id, t.inputs]));
};

describe('cords by typing', () => {
  it.each([['2 > Pilot'], ['2>pilot'], ['  2  > pil ']])('%j patches one line', (text) => {
    expect(inputs(text).p).toEqual(['eight/2']);
  });
  it('patches pairs and groups in order', () => {
    expect(inputs('5-6 > Boat').b).toEqual(['eight/5', 'eight/6']);
    expect(inputs('1-6 > Surf').s).toEqual([1, 2, 3, 4, 5, 6].map((n) => `eight/${n}`));
  });
  it.each([
    ['1,2 > Boat', 'b', ['eight/1', 'eight/2']],
    ['4, 3 > Boat', 'b', ['eight/4', 'eight/3']],
    ['4-3 > Boat', 'b', ['eight/4', 'eight/3']],
    ['7 and 8 > boat', 'b', ['eight/7', 'eight/8']],
    ['7 > Boat.R', 'b', [null, 'eight/7']],
    ['7 > boat r', 'b', [null, 'eight/7']],
    ['1-2 > Surf.Ls', 's', [null, null, null, null, 'eight/1', 'eight/2']],
    ['1, 3-5, 8 > Surf', 's', ['eight/1', 'eight/3', 'eight/4', 'eight/5', 'eight/8', null]],
  ] as const)('%j gives each channel its line', (text, track, wanted) => {
    expect(inputs(text)[track]).toEqual(wanted);
  });
  it('a name that ends like a channel is a name first', () => {
    const named = apply(doc, { type: 'addTrack', id: 'r', name: 'Boat R', layout: 'mono', destination: null });
    expect(inputs('3 > Boat R', named)).toMatchObject({ r: ['eight/3'], b: [null, null] });
    expect(inputs('3 > Boat.R', named)).toMatchObject({ r: [null], b: [null, 'eight/3'] });
  });
  it('one channel is taken out by itself', () => {
    const both = apply(doc, ...readPatch(doc, device, '5-6 > Boat'));
    expect(inputs('none > Boat.L', both).b).toEqual([null, 'eight/6']);
  });
  it('moves a track to other lines, even to one it had on another channel', () => {
    const first = apply(doc, ...readPatch(doc, device, '5-6 > Boat'));
    expect(inputs('6-7 > Boat', first).b).toEqual(['eight/6', 'eight/7']);
  });
  it.each([
    ['Pilot', /Write lines and a track/],
    ['3 > Nobody', /no track "Nobody"/],
    ['9 > Pilot', /lines 1 to 8/],
    ['4,9 > Boat', /lines 1 to 8/],
    ['4,4 > Boat', /Line 4 stands twice/],
    ['4 > Boat.X', /no channel "X"; it has L, R/],
    ['4,5 > Boat.R', /takes 1 line from there on, not 2/],
    ['4 and > Boat', /Write lines and a track/],
    ['> Boat', /Write lines and a track/],
    ['4 >', /Write lines and a track/],
    ['1-3 > Boat', /takes 2 lines, not 3/],
  ])('%j is refused with a hint', (text, message) => {
    expect(() => readPatch(doc, device, text)).toThrow(message);
  });
});

describe('cords that were there', () => {
  const other = { ...device, id: 'usb', name: 'USB', lines: ['Booth'] };
  const fed = apply(doc, ...readPatch(doc, device, '2 > Pilot'));
  it('and are replaced are told, also by another device', () => {
    expect(replacedText(fed, patchEdits(fed, other, 0, 'p', 0))).toMatch(/^Pilot: .* in the place of Line 2. Undo/);
    expect(replacedText(fed, readPatch(fed, device, '3 > Pilot'))).toMatch(/in the place of Line 2/);
    expect(replacedText(fed, readPatch(fed, device, '2 > Pilot'))).toBeNull();
    expect(replacedText(doc, readPatch(doc, device, '3 > Pilot'))).toBeNull();
  });
  it.each(['none > Pilot', '- > pil', '0>Pilot'])('are taken out by %j', (text) =>
    expect(inputs(text, fed).p).toEqual([null]),
  );
});

describe('a name that fits two tracks', () => {
  const two = apply(doc, { type: 'addTrack', id: 'p2', name: 'Prompter', layout: 'mono', destination: null });
  it('is asked about instead of taking one of them', () => {
    expect(() => readPatch(two, device, '1 > P')).toThrow(/"P" fits Pilot and Prompter. Write more/);
    expect(inputs('1 > Pi', two).p).toEqual(['eight/1']);
    const twins = apply(two, { type: 'setTrack', track: 'p2', name: 'Pilot' });
    expect(() => readPatch(twins, device, '1 > Pilot')).toThrow(/give them names of their own/);
  });
});

describe('one cord for a whole track', () => {
  const track = doc.tracks.find((t) => t.id === 's')!;
  it('takes lines in order for all its channels, and replaces what was there', () => {
    const before = apply(doc, ...readPatch(doc, device, '1-6 > Surf'));
    const after = apply(before, ...patchInOrder(before, device, 2, track));
    expect(after.tracks.find((t) => t.id === 's')!.inputs).toEqual([3, 4, 5, 6, 7, 8].map((n) => `eight/${n}`));
  });
  it('says so when the device has too few lines from there on', () => {
    expect(() => patchInOrder(doc, device, 3, track)).toThrow(/takes 6 lines in order, but from line 4 on .* has 5/);
  });
});

describe('a cord that is moved', () => {
  const both = apply(doc, ...readPatch(doc, device, '5-6 > Boat'), ...readPatch(doc, device, '2 > Pilot'));
  const moved = (from: [string, number], to: [string, number]) => {
    const [a, b] = [from, to].map(([track, channel]) => ({ track, channel })) as [
      { track: string; channel: number },
      { track: string; channel: number },
    ];
    return Object.fromEntries(apply(both, ...moveCord(both, a, b)).tracks.map((t) => [t.id, t.inputs]));
  };
  it('leaves its channel empty', () => {
    expect(moved(['p', 0], ['s', 3])).toMatchObject({ p: [null], s: [null, null, null, 'eight/2', null, null] });
  });
  it('changes places with the one that is there', () => {
    expect(moved(['b', 0], ['b', 1]).b).toEqual(['eight/6', 'eight/5']);
    expect(moved(['p', 0], ['b', 1])).toMatchObject({ p: ['eight/6'], b: ['eight/5', 'eight/2'] });
  });
  it('is not moved where there is none, or to nowhere', () => {
    expect(() => moved(['s', 0], ['p', 0])).toThrow(/no cord/);
    expect(() => moved(['p', 0], ['b', 2])).toThrow(/no such channel/);
    expect(moved(['p', 0], ['p', 0]).p).toEqual(['eight/2']);
  });
  it('two lines change places wherever they are', () => {
    const more = apply(both, ...readPatch(both, device, '5 > Surf.L'));
    const after = apply(more, ...swapLines(more, 'eight/5', 'eight/2'));
    expect(after.tracks.map((t) => t.inputs)).toEqual([
      ['eight/5'],
      ['eight/2', 'eight/6'],
      ['eight/2', null, null, null, null, null],
    ]);
  });
});
