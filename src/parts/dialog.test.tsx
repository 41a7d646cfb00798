import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { Dialog } from './dialog';
import { followFocus } from './focusHistory';

let end: () => void;
beforeEach(() => {
  end = followFocus();
});
afterEach(() => {
  cleanup();
  end();
});

function Page() {
  const [asked, setAsked] = useState(false);
  return (
    <>
      <button>Elsewhere</button>
      <button onClick={() => setAsked(true)}>New session</button>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger>Open</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content>
            <DropdownMenu.Item onSelect={() => setAsked(true)}>All sessions…</DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog open={asked} onClose={() => setAsked(false)} title="Sessions">
        <input aria-label="Name" />
      </Dialog>
    </>
  );
}

const focused = (name: string) =>
  waitFor(() => expect(document.activeElement?.textContent).toBe(name), { timeout: 5000 });

it('gives the focus back to the button that opened it', async () => {
  render(<Page />);
  const user = userEvent.setup();
  screen.getByRole('button', { name: 'New session' }).focus();
  await user.keyboard('{Enter}');
  await screen.findByRole('dialog');
  await user.keyboard('{Escape}');
  await focused('New session');
});

it('gives it back to the menu button where an item of the menu opened it', async () => {
  render(<Page />);
  const user = userEvent.setup();
  screen.getByRole('button', { name: 'Open' }).focus();
  await user.keyboard('{Enter}');
  await screen.findByRole('menuitem');
  await user.keyboard('{Enter}');
  await screen.findByRole('dialog');
  await user.keyboard('{Escape}');
  await focused('Open');
});

it('gives it to nothing where nothing had it', async () => {
  render(<Page />);
  const user = userEvent.setup();
  screen.getByRole('button', { name: 'Elsewhere' }).focus();
  (document.activeElement as HTMLElement).blur();
  await Promise.resolve();
  const press = screen.getByRole('button', { name: 'New session' });
  press.click();
  await screen.findByRole('dialog');
  await user.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(document.activeElement).toBe(document.body);
});
