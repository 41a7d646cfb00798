import { expect, it } from 'vitest';
import { followed } from './compareChains';

const start = { sides: { A: '[1]', B: '[2]' }, sounds: 'B' as const };

it('a knob that is turned changes the side that sounds', () => {
  expect(followed(start, '[3]')).toEqual({ sides: { A: '[1]', B: '[3]' }, sounds: 'B' });
});
it('an undo that brings the other setting back changes the letter, and a redo changes it again', () => {
  const undone = followed(start, '[1]');
  expect(undone).toEqual({ ...start, sounds: 'A' });
  expect(followed(undone, '[2]')).toEqual(start);
});
it('nothing that changed is nothing to follow', () => {
  expect(followed(start, '[2]')).toBe(start);
  const same = { sides: { A: '[1]', B: '[1]' }, sounds: 'B' as const };
  expect(followed(same, '[1]')).toBe(same);
});
