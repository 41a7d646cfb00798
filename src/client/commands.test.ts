import { expect, it } from 'vitest';
import { keyText, offer, useCommands } from './commands';

const command = (id: string) => ({ id, label: id, keys: 'x', group: 'Test', run: () => {} });

it('offers a view’s commands while it is there', () => {
  const leave = offer('floor', [command('a'), command('b')]);
  const stay = offer('everywhere', [command('c')]);
  expect(
    Object.values(useCommands.getState().sets)
      .flat()
      .map((c) => c.id),
  ).toEqual(['a', 'b', 'c']);
  leave();
  expect(
    Object.values(useCommands.getState().sets)
      .flat()
      .map((c) => c.id),
  ).toEqual(['c']);
  offer('everywhere', [command('d')]);
  expect(useCommands.getState().sets.everywhere!.map((c) => c.id)).toEqual(['d']);
  stay();
  expect(useCommands.getState().sets).toEqual({});
});

it.each([
  ['mod+k', 'Ctrl K'],
  ['mod+shift+z', 'Ctrl Shift Z'],
  ['space', 'Space'],
  ['question', '?'],
  ['r', 'R'],
  ['home', 'Home'],
])('shows the keys %s as %s', (keys, text) => {
  expect(keyText(keys)).toBe(text);
});
