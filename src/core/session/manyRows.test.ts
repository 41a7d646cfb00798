import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import type { SessionDoc } from './document';
import {
  addStageEdits,
  carryOnStems,
  copyChainEdits,
  destinationEdits,
  levelEdits,
  placeEdits,
  removeStageEdits,
  renameEdits,
  rowsOfIds,
  sendEdits,
  trimEdits,
} from './manyRows';

const start = (): SessionDoc =>
  sessionWith(
    monoTrack('a', 'Ann'),
    monoTrack('b', 'Ben'),
    { type: 'setTrack', track: 'b', level: -3.3 },
    { type: 'addBus', kind: 'bus', id: 'g', name: 'Voices', sources: ['a'] },
    { type: 'addBus', kind: 'return', id: 'r', name: 'Room' },
  );
const rows = (doc: SessionDoc, ...ids: string[]) => rowsOfIds(doc, new Set(ids));
const node = (doc: SessionDoc, id: string) => rows(doc, id)[0]!;

describe('many rows at once', () => {
  it('levels are set, or changed by as much', () => {
    const doc = start();
    const to = applied(doc, ...levelEdits(rows(doc, 'a', 'b', 'g'), { way: 'to', db: -6 }));
    expect(['a', 'b', 'g'].map((id) => node(to, id).level)).toEqual([-6, -6, -6]);
    const by = applied(doc, ...levelEdits(rows(doc, 'a', 'b', 'g'), { way: 'by', db: 0.1 }));
    expect(['a', 'b', 'g'].map((id) => node(by, id).level)).toEqual([0.1, -3.2, 0.1]);
  });

  it('one that would go too far leaves all as they are, and says how far they go', () => {
    const doc = start();
    const by = (db: number) => () => levelEdits(rows(doc, 'a', 'b'), { way: 'by', db });
    expect(by(25)).toThrow('Ann would stand at 25 dB; level goes from -100 to 24. Nothing was changed.');
    expect(() => trimEdits(rows(doc, 'g'), { way: 'to', db: -30 })).toThrow(/Voices would stand at -30 dB/);
  });

  it('trims are those of buses', () => {
    const doc = start();
    expect(trimEdits(rows(doc, 'a', 'g'), { way: 'by', db: -2 })).toEqual([{ type: 'setBus', bus: 'g', trim: -2 }]);
  });

  it('tracks and buses are led to one place; the place itself stays', () => {
    const doc = start();
    const next = applied(doc, ...destinationEdits(rows(doc, 'a', 'b', 'g'), 'g'));
    expect(['a', 'b', 'g'].map((id) => node(next, id).destination)).toEqual(['g', 'g', 'dia']);
  });

  it('a send is added where none is', () => {
    const doc = start();
    const once = applied(doc, ...sendEdits(rows(doc, 'a'), 'r', -12));
    const edits = sendEdits(rows(once, 'a', 'b', 'r'), 'r', -20);
    const twice = applied(once, ...edits);
    expect(['a', 'b'].map((id) => node(twice, id).sends.map((s) => s.level))).toEqual([[-12], [-20]]);
    expect(edits).toHaveLength(1);
  });

  it('rows are renamed by a pattern, with the old name and a number', () => {
    const doc = start();
    const next = applied(doc, ...renameEdits(doc, rows(doc, 'a', 'b'), 'V{nn} {name}'));
    expect(['a', 'b'].map((id) => node(next, id).name)).toEqual(['V01 Ann', 'V02 Ben']);
  });

  it.each([
    ['Voice', /"Voice" would be there twice/],
    ['Voices', /"Voices" would be there twice/],
    ['{take} 1', /There is no \{take\}/],
    [' ', /empty/],
  ])('the pattern "%s" is refused', (pattern, message) => {
    const doc = start();
    expect(() => renameEdits(doc, rows(doc, 'a', 'b'), pattern)).toThrow(message);
  });

  it('a limiter at -0.2 for all stems and the reference, and out again', () => {
    const doc = start();
    const picked = rows(doc, 'dia', 'mus', 'ref');
    const next = applied(doc, ...addStageEdits(picked, 'limiter', { ceiling: -0.2 }));
    for (const id of ['dia', 'mus', 'ref'])
      expect(node(next, id).chain.map((s) => [s.type, s.values.ceiling])).toEqual([['limiter', -0.2]]);
    const more = applied(next, ...addStageEdits(rows(next, 'dia'), 'limiter', {}));
    expect(node(more, 'dia').chain).toHaveLength(2);
    const none = applied(more, ...removeStageEdits(rows(more, 'dia', 'mus', 'ref'), 'limiter'));
    for (const id of ['dia', 'mus', 'ref']) expect(node(none, id).chain).toEqual([]);
  });

  it('a chain takes the place of others, or is put behind them', () => {
    let doc = start();
    doc = applied(doc, ...addStageEdits(rows(doc, 'a'), 'eq', {}), ...addStageEdits(rows(doc, 'b'), 'gate', {}));
    const types = (d: SessionDoc, id: string) => node(d, id).chain.map((s) => s.type);
    const replaced = applied(doc, ...copyChainEdits(node(doc, 'a'), rows(doc, 'a', 'b'), 'replace'));
    expect(types(replaced, 'b')).toEqual(['eq']);
    const appended = applied(doc, ...copyChainEdits(node(doc, 'a'), rows(doc, 'a', 'b'), 'append'));
    expect(types(appended, 'b')).toEqual(['gate', 'eq']);
    expect(types(appended, 'a')).toEqual(['eq']);
  });

  it('what stands on the reference is carried by its stems', () => {
    let doc = applied(start(), { type: 'setReference', bus: 'ref', leftOut: ['nar'] });
    doc = applied(doc, ...addStageEdits(rows(doc, 'ref'), 'eq', {}));
    const next = applied(
      doc,
      ...carryOnStems(
        doc,
        doc.buses.find((b) => b.id === 'ref')!,
        'ref-eq',
      ),
    );
    expect(node(next, 'ref').chain).toEqual([]);
    expect(['dia', 'nar'].map((id) => node(next, id).chain.map((s) => s.type))).toEqual([['eq'], []]);
  });

  it('what has a place gets the new part of it', () => {
    const doc = applied(start(), { type: 'addTrack', id: 'w', name: 'Wide', layout: '5.1', destination: 'amb' });
    const edits = placeEdits(rows(doc, 'a', 'w'), { azimuth: 30 });
    expect(edits).toHaveLength(1);
    expect(applied(doc, ...edits).tracks[0]!.placement).toMatchObject({ azimuth: 30, distance: 1 });
  });
});
