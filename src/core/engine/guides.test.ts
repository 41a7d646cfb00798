import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { newKernels } from '../../../tests/support/kernels';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { compilePlan } from '.';

const k = newKernels();
const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const doc = apply(
  newSession('Test', 'TS', { ...FORMAT }),
  { type: 'addTrack', id: 'g', name: 'Guide', layout: 'mono', destination: 'dia' },
  { type: 'addTrack', id: 'o', name: 'Other', layout: 'mono', destination: 'dia' },
  { type: 'setTrack', track: 'g', guide: true },
);
const gain = (d: SessionDoc, id: string, mode: 'live' | 'print', recording = false) =>
  compilePlan(k, d, { mode, rolling: recording, recording }).nodes.find((n) => n.id === id)!.gain;

describe('guide tracks', () => {
  it.each([
    ['play', 1],
    ['dim', 0.1],
    ['mute', 0],
  ] as const)('%s while recording, come back afterwards, and print as they are', (guides, expected) => {
    const d = apply(doc, { type: 'setWork', guides: guides === 'play' ? 'mute' : 'play' }, { type: 'setWork', guides });
    expect(gain(d, 'g', 'live', true)).toBeCloseTo(expected, 6);
    expect(gain(d, 'g', 'live', false)).toBe(1);
    expect(gain(d, 'g', 'print', true)).toBe(1);
    expect(gain(d, 'o', 'live', true)).toBe(1);
  });
  it('one that is recorded itself is heard as it is', () => {
    expect(gain(apply(doc, { type: 'seatTrack', track: 'g', armed: true }), 'g', 'live', true)).toBe(1);
  });
  it('a line is heard always, without arming, when the track says so', () => {
    const d = apply(
      doc,
      { type: 'addLine', device: 'd', channel: 0, name: 'Booth' },
      { type: 'patch', track: 'o', channel: 0, line: 'd/1' },
      { type: 'seatTrack', track: 'o', hearing: 'always' },
    );
    const line = compilePlan(k, d, { mode: 'live' }).nodes.find((n) => n.id === 'd/1')!;
    expect(line.links.map((l) => l.to)).toEqual(['o']);
  });
});
