import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import { AskFirst } from './askFirst';

function asked() {
  const onAct = vi.fn();
  render(
    <AskFirst act="Remove it" leave="Keep it" onAct={onAct}>
      {(ask) => <button onClick={ask}>Remove version Lamp</button>}
    </AskFirst>,
  );
  return onAct;
}
const press = (name: string) => userEvent.setup().click(screen.getByRole('button', { name }));

it('asks once more before anything is taken away', async () => {
  const onAct = asked();
  await press('Remove version Lamp');
  expect(onAct).not.toHaveBeenCalled();
  await press('Remove it');
  expect(onAct).toHaveBeenCalledOnce();
  expect(screen.getByRole('button', { name: 'Remove version Lamp' })).toBeDefined();
});

it('leaves it as it is by its button, by Enter and by Escape', async () => {
  const onAct = asked();
  await press('Remove version Lamp');
  await press('Keep it');
  await press('Remove version Lamp');
  // What keeps it is in front: a hasty Enter takes nothing away.
  await userEvent.setup().keyboard('{Enter}');
  await press('Remove version Lamp');
  await userEvent.setup().keyboard('{Escape}');
  expect(onAct).not.toHaveBeenCalled();
  expect(screen.getByRole('button', { name: 'Remove version Lamp' })).toBeDefined();
});
