import { describe, expect, it } from 'vitest';
import { sessionWith as apply } from '../../../tests/support/session';
import { EditRefused, type EditJson } from '.';

const begin: EditJson[] = [
  { type: 'addTrack', id: 'p', name: 'Pilot', layout: 'stereo', destination: 'dia' },
  { type: 'addTrack', id: 'n', name: 'Narrator', layout: 'mono', destination: 'nar' },
  { type: 'addLine', device: 'old', channel: 0, name: 'Near' },
  { type: 'addLine', device: 'old', channel: 4, name: 'Far' },
  { type: 'addLine', device: 'new', channel: 0, name: 'Something' },
  { type: 'patch', track: 'p', channel: 0, line: 'old/1' },
  { type: 'patch', track: 'p', channel: 1, line: 'old/5' },
  { type: 'patch', track: 'n', channel: 0, line: 'new/1' },
  { type: 'setLine', line: 'old/1', position: 'booth', gain: 41 },
];
const lines = (n: number) => Array.from({ length: n }, (_, i) => `Line ${i + 1}`);

describe('another device in the place of a missing one', () => {
  it('takes cords, names, sheets and chains along', () => {
    const before = apply(...begin);
    const doc = apply(...begin, { type: 'substituteDevice', from: 'old', to: 'new', lines: lines(8) });
    expect(doc.tracks[0]!.inputs).toEqual(['new/1', 'new/5']);
    const line = doc.lines.find((l) => l.id === 'new/1')!;
    expect(line).toMatchObject({ name: 'Near', device: 'new', sheet: { position: 'booth', gain: 41 } });
    expect(line.chain).toEqual(before.lines.find((l) => l.id === 'old/1')!.chain);
    expect(doc.lines.some((l) => l.device === 'old')).toBe(false);
  });
  it('a cord that stood on the same line gives way', () => {
    const doc = apply(...begin, { type: 'substituteDevice', from: 'old', to: 'new', lines: lines(8) });
    expect(doc.tracks[1]!.inputs).toEqual([null]);
  });
  it('with too few lines it is refused as a whole, and says which cord is in the way', () => {
    expect(() => apply(...begin, { type: 'substituteDevice', from: 'old', to: 'new', lines: lines(2) })).toThrow(
      /Far stands on line 5, but the other device has 2/,
    );
    expect(() => apply({ type: 'substituteDevice', from: 'old', to: 'new', lines: lines(2) })).toThrow(EditRefused);
  });
});
