import { render, screen } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { KEYBOARDS, typed } from '../../../tests/support/keyboards';
import { offer, useCommands, type Command } from '@/client';
import { floorCommands } from '../floor/floorKeys';
import { flowCommands } from '../flow/flowKeys';
import { hearKeys, printKeys } from '../print/printKeys';
import { BindKeys, everywhere, onTrack } from './globalKeys';
import { historyKeys } from './historyDialog';
import { KeysSheet } from './keysSheet';

const nothing = () => {};
const always = [...everywhere('s'), ...historyKeys()];
const PLACES: Readonly<Record<string, Command[]>> = {
  brief: always,
  lineup: [...always, ...onTrack()],
  floor: [...always, ...onTrack(), ...floorCommands(() => 0)],
  flow: [...always, ...onTrack(), ...flowCommands()],
  room: [...always, ...onTrack()],
  print: [...always, ...printKeys(nothing), ...hearKeys(nothing)],
};

/** Every command of a place, which only notes that it was called. */
function offered(place: string): string[] {
  const called: string[] = [];
  offer(
    place,
    PLACES[place]!.map((c) => ({ ...c, run: () => void called.push(c.id) })),
  );
  return called;
}

/** What the sheet prints: the keys of each command. */
function printed(): [id: string, keys: string][] {
  useCommands.setState({ keysOpen: true });
  const { unmount } = render(<KeysSheet />);
  const rows = [...document.querySelectorAll<HTMLElement>('[data-command]')];
  const list = rows.map((r): [string, string] => [r.dataset.command!, r.querySelector('kbd')!.textContent]);
  useCommands.setState({ keysOpen: false });
  unmount();
  return list;
}

beforeEach(() => useCommands.setState({ sets: {} }));

describe.each(Object.keys(PLACES))('the keys of %s', (place) => {
  it.each(Object.keys(KEYBOARDS))('each that the sheet lists calls its command on a keyboard of %s', (layout) => {
    const called = offered(place);
    const list = printed();
    expect(list.length).toBe(PLACES[place]!.filter((c) => c.keys).length);
    render(<BindKeys />);
    for (const [id, keys] of list) {
      called.length = 0;
      document.body.dispatchEvent(new KeyboardEvent('keydown', typed(layout, keys)));
      document.body.dispatchEvent(new KeyboardEvent('keyup', typed(layout, keys)));
      expect(called, `${keys} on ${layout}`).toEqual([id]);
    }
  });
});

it('the sheet prints a sign as it stands on the key, and Ctrl as this computer calls it', () => {
  offered('floor');
  const keys = new Map(printed());
  expect(keys.get('keys')).toBe('?');
  expect(keys.get('closer')).toBe('+');
  expect(keys.get('undo')).toBe('Ctrl Z');
  expect(keys.get('remove-clip')).toBe('Delete');
  vi.stubGlobal('navigator', { platform: 'MacIntel' });
  expect(new Map(printed()).get('undo')).toBe('⌘ Z');
  vi.unstubAllGlobals();
});

it('the search opens from a text field too; other keys are typed there', () => {
  const called = offered('floor');
  render(
    <>
      <BindKeys />
      <input aria-label="Words" />
    </>,
  );
  const press = (keys: string) =>
    screen
      .getByRole('textbox')
      .dispatchEvent(new KeyboardEvent('keydown', { ...typed(Object.keys(KEYBOARDS)[0]!, keys), bubbles: true }));
  press('Ctrl K');
  press('R');
  press('Ctrl Z');
  expect(called).toEqual(['search']);
});

describe('Space', () => {
  const shown = () => {
    const called = offered('brief');
    const pressed = vi.fn();
    render(
      <>
        <BindKeys />
        <button onClick={pressed}>Lamp</button>
      </>,
    );
    return { called, pressed, button: screen.getByRole('button', { name: 'Lamp' }) };
  };
  const space = (on: Element) =>
    on.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', code: 'Space', bubbles: true, cancelable: true }));
  const tab = () => document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Tab', bubbles: true }));
  const point = (on: Element) => on.dispatchEvent(new Event('pointerdown', { bubbles: true }));

  it('presses a button that keys went to', () => {
    const { called, button } = shown();
    tab();
    button.focus();
    // Not prevented: the browser presses it.
    expect(space(button)).toBe(true);
    expect(called).toEqual([]);
  });
  it('plays after a click with the mouse, which leaves the focus on the button', () => {
    const { called, button } = shown();
    tab();
    button.focus();
    point(button);
    expect(space(button)).toBe(false);
    expect(called).toEqual(['roll']);
  });
});

it('what is carried by keys in a list is moved by arrows, and nothing else is', () => {
  const called = offered('floor');
  render(
    <>
      <BindKeys />
      <button aria-roledescription="sortable" aria-pressed>
        Move Lamp
      </button>
    </>,
  );
  const handle = screen.getByRole('button');
  for (const key of ['ArrowLeft', ' ', 'ArrowRight'])
    handle.dispatchEvent(new KeyboardEvent('keydown', { key, code: key, bubbles: true, cancelable: true }));
  expect(called).toEqual([]);
});
