import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
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

it('is not answered by the key that opened it, as long as that is down', async () => {
  const answered = vi.fn();
  const { rerender } = render(<div />);
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
  rerender(
    <Dialog open onClose={() => {}} title="Another rate">
      <button autoFocus onClick={answered}>
        Convert
      </button>
    </Dialog>,
  );
  const button = await screen.findByRole('button', { name: 'Convert' });
  // What a browser sends when Enter presses a button.
  button.click();
  expect(answered).not.toHaveBeenCalled();
  document.body.dispatchEvent(new KeyboardEvent('keyup', { key: 'Enter', bubbles: true }));
  button.click();
  expect(answered).toHaveBeenCalledOnce();
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
