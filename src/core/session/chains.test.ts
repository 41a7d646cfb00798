import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import {
  applyEdit,
  changedSince,
  newSession,
  readEdit,
  stagesOf,
  VOICE_CHAINS,
  type EditJson,
  type SessionDoc,
} from '.';
import { STAGE_KINDS, stageKind } from '@/core/stages';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const LINE = { kind: 'line', id: 'd/1' } as const;
const start = () =>
  apply(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'addLine', device: 'd', channel: 0, name: 'Booth' },
    { type: 'addLine', device: 'd', channel: 1, name: 'Table' },
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'nar' },
    { type: 'patch', track: 'a', channel: 0, line: 'd/1' },
  );

describe('chains as a whole', () => {
  it('a copied chain takes the place of the others’, with ids of their own', () => {
    const doc = apply(
      start(),
      { type: 'setStage', owner: LINE, stage: 'd/1-lowCut', values: { frequency: 95 } },
      {
        type: 'copyChain',
        owner: LINE,
        to: [
          { kind: 'line', id: 'd/2' },
          { kind: 'bus', id: 'dia' },
        ],
      },
    );
    const copied = doc.buses.find((b) => b.id === 'dia')!.chain;
    expect(copied.map((s) => s.type)).toEqual(['lowCut', 'gate', 'compressor']);
    expect(copied[0]!.values.frequency).toBe(95);
    expect(doc.lines[1]!.chain.map((s) => s.id)).toEqual(['d/2-lowCut', 'd/2-gate', 'd/2-compressor']);
  });
  it('a copied stage is put at the end; twice is two', () => {
    const copy: EditJson = { type: 'copyChain', owner: LINE, stage: 'd/1-gate', to: [{ kind: 'line', id: 'd/2' }] };
    expect(apply(start(), copy, copy).lines[1]!.chain.map((s) => s.id)).toEqual([
      'd/2-lowCut',
      'd/2-gate',
      'd/2-compressor',
      'd/2-gate-2',
      'd/2-gate-3',
    ]);
  });
  it.each([
    [{ id: 'x', type: 'echo', on: true, values: {} }, /no stage "echo"/],
    [{ id: 'x', type: 'lowCut', on: true, values: { frequency: 1e9 } }, /Low cut: Frequency goes from/],
    [{ id: 'x', type: 'lowCut', on: true, values: { frequency: 'low' } }, /Low cut/],
  ])('a chain of nonsense is refused and the old one stays', (stage, message) => {
    expect(() => apply(start(), { type: 'setChain', owner: LINE, chain: [stage] } as unknown as EditJson)).toThrow(
      message,
    );
  });
  it.each(VOICE_CHAINS.map((v) => [v.name, v] as const))('the shipped chain “%s” lies within every limit', (_, v) => {
    const doc = apply(start(), { type: 'setChain', owner: LINE, chain: stagesOf(v, 'v') });
    expect(doc.lines[0]!.chain.map((s) => s.type)).toEqual(v.stages.map(([type]) => type));
    for (const [type, , values] of v.stages)
      for (const id of Object.keys(values ?? {})) expect(stageKind(type).params.map((p) => p.id)).toContain(id);
    expect(STAGE_KINDS.length).toBeGreaterThan(v.stages.length);
  });
  it('a take knows in words what its line’s chain has become since', () => {
    const doc = start();
    const then = [JSON.parse(JSON.stringify(doc.lines[0]!.chain))];
    const track = doc.tracks[0]!;
    expect(changedSince(doc, track, then)).toEqual([]);
    const later = apply(
      doc,
      { type: 'switchStage', owner: LINE, stage: 'd/1-compressor', on: true },
      { type: 'removeStage', owner: LINE, stage: 'd/1-gate' },
    );
    expect(changedSince(later, later.tracks[0]!, then)).toEqual(['Booth: Gate is gone', 'Booth: Compressor is on']);
  });
});
