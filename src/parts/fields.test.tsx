// Parts that hold one value: a word, one of a few, one of a list.
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { expect, it, vi } from 'vitest';
import { Choice } from './choice';
import { Segments } from './segments';
import { TextField } from './textField';

it('a word is taken by Enter and by leaving, without spaces around it', async () => {
  const onChange = vi.fn();
  render(<TextField label="Name" value="Pilot" onChange={onChange} />);
  const user = userEvent.setup();
  await user.click(screen.getByRole('textbox', { name: 'Name' }));
  await user.keyboard('{Control>}a{/Control}  Lad {Enter}');
  await user.click(screen.getByRole('textbox'));
  await user.keyboard('{Control>}a{/Control}Boat{Tab}');
  expect(onChange.mock.calls).toEqual([['Lad'], ['Boat']]);
});

it('a word that is left by Escape, emptied or unchanged is none', async () => {
  const onChange = vi.fn();
  render(<TextField label="Name" value="Pilot" onChange={onChange} />);
  const user = userEvent.setup();
  for (const keys of ['Lad{Escape}', '{Delete}{Enter}', 'Pilot{Enter}']) {
    await user.click(screen.getByRole('textbox'));
    await user.keyboard(`{Control>}a{/Control}${keys}`);
    expect(screen.getByRole<HTMLInputElement>('textbox').value).toBe('Pilot');
  }
  expect(onChange).not.toHaveBeenCalled();
});

it('a word keeps its keys to itself, so that none plays or records', async () => {
  const key = vi.fn();
  render(
    <div onKeyDown={key}>
      <TextField label="Name" value="" mayBeEmpty onChange={() => {}} />
    </div>,
  );
  await userEvent.setup().type(screen.getByRole('textbox'), ' r');
  expect(key).not.toHaveBeenCalled();
});

it('one of a few is chosen by arrows, and one is always chosen', async () => {
  const onChange = vi.fn();
  function Shown() {
    const [value, setValue] = useState<'map' | 'table'>('map');
    return (
      <Segments
        label="Lens"
        value={value}
        options={[
          { value: 'map', label: 'Map' },
          { value: 'table', label: 'Table' },
        ]}
        onChange={(v) => {
          onChange(v);
          setValue(v);
        }}
      />
    );
  }
  render(<Shown />);
  const user = userEvent.setup();
  await user.tab();
  await user.keyboard('{ArrowRight}{Enter}');
  expect(onChange).toHaveBeenLastCalledWith('table');
  await user.click(screen.getByRole('radio', { name: 'Table' }));
  expect(screen.getByRole('radio', { name: 'Table' }).getAttribute('aria-checked')).toBe('true');
  expect(onChange).toHaveBeenCalledTimes(1);
});

it('one of a list: opened by keys, left by Escape, and what cannot be is not chosen', async () => {
  const onChange = vi.fn();
  render(
    <Choice
      label="Kind"
      value="a"
      options={[
        { value: 'a', label: 'Line' },
        { value: 'b', label: 'Room', disabled: true },
        { value: 'c', label: 'Desk', note: 'of the house' },
      ]}
      onChange={onChange}
    />,
  );
  const user = userEvent.setup();
  await user.tab();
  await user.keyboard('{Enter}');
  expect(screen.getAllByRole('option')).toHaveLength(3);
  await user.keyboard('{Escape}');
  expect(screen.queryByRole('option')).toBeNull();
  expect(onChange).not.toHaveBeenCalled();
  await user.keyboard('{Enter}{ArrowDown}{Enter}');
  expect(onChange.mock.calls).toEqual([['c']]);
});

it('a closed list lets letters through to the application', async () => {
  render(
    <Choice
      label="Kind"
      value="a"
      options={[
        { value: 'a', label: 'Line' },
        { value: 'r', label: 'Room' },
      ]}
      onChange={() => {}}
    />,
  );
  const user = userEvent.setup();
  // As the application does with the keys that it takes.
  const through = vi.fn((e: KeyboardEvent) => e.preventDefault());
  await user.tab();
  document.addEventListener('keydown', through);
  // Nobody follows how the focus is moved here, so it counts as brought by a click: Space plays.
  await user.keyboard('r ');
  expect(through.mock.calls.map(([e]) => e.key)).toEqual(['r', ' ']);
  expect(screen.queryByRole('option')).toBeNull();
  await user.keyboard('{Enter}');
  document.removeEventListener('keydown', through);
  expect(through).toHaveBeenCalledTimes(2);
  expect(screen.getAllByRole('option')).toHaveLength(2);
});

it('one of a list: opened by the mouse or by its label, told as open, and the focus comes back to it', async () => {
  const onChange = vi.fn();
  render(
    <label>
      <b>Kind of line</b>
      <Choice
        label="Kind"
        value="a"
        options={[
          { value: 'a', label: 'Line' },
          { value: 'r', label: 'Room' },
        ]}
        onChange={onChange}
      />
    </label>,
  );
  const user = userEvent.setup();
  const choice = screen.getByRole('combobox', { name: 'Kind' });
  expect(choice.getAttribute('aria-expanded')).toBe('false');
  await user.pointer({ target: choice, keys: '[MouseLeft>]' });
  const list = screen.getByRole('listbox');
  expect(choice.getAttribute('aria-expanded')).toBe('true');
  expect(choice.getAttribute('aria-controls')).toBe(list.id);
  await user.pointer({ target: list, keys: '[/MouseLeft]' });
  await user.click(screen.getByRole('option', { name: 'Room' }));
  expect(onChange.mock.calls).toEqual([['r']]);
  await waitFor(() => expect(document.activeElement).toBe(choice));
  expect(screen.queryByRole('listbox')).toBeNull();
  await user.click(screen.getByText('Kind of line'));
  expect(screen.getAllByRole('option')).toHaveLength(2);
  await user.keyboard('{Escape}');
  await waitFor(() => expect(document.activeElement).toBe(choice));
  expect(onChange).toHaveBeenCalledTimes(1);
});
