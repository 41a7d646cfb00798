import { useEffect, useRef } from 'react';
import { create } from 'zustand';
import { isPressed, type KeyPress } from './keyMatch';

/** An action that the command search and the keyboard reach. */
export interface Command {
  id: string;
  label: string;
  /** "mod+shift+z", as isPressed reads it; empty: none. */
  keys: string;
  /** Where it stands on the keys sheet. */
  group: string;
  run(): void;
}

interface Commands {
  /** By the view that offers them. */
  sets: Record<string, Command[]>;
  searchOpen: boolean;
  keysOpen: boolean;
}

export const useCommands = create<Commands>(() => ({ sets: {}, searchOpen: false, keysOpen: false }));

/** Offers commands while a view is there; returns the function that takes them away. */
export function offer(view: string, commands: Command[]): () => void {
  useCommands.setState((s) => ({ sets: { ...s.sets, [view]: commands } }));
  return () =>
    useCommands.setState((s) => {
      const { [view]: _gone, ...sets } = s.sets;
      return { sets };
    });
}

/** Offers a view's commands while it is there; what they do may change each time it is drawn. */
export function useOffer(view: string, commands: Command[]): void {
  const latest = useRef(commands);
  useEffect(() => {
    latest.current = commands;
  });
  const told = JSON.stringify(commands.map((c) => [c.id, c.label, c.keys]));
  useEffect(() => {
    const call = (id: string) => latest.current.find((c) => c.id === id)?.run();
    return offer(
      view,
      latest.current.map((c) => ({ ...c, run: () => call(c.id) })),
    );
  }, [view, told]);
}

const WORDS: Readonly<Record<string, string>> = {
  shift: 'Shift',
  space: 'Space',
  question: '?',
  equal: '+',
  minus: '−',
  comma: ',',
  period: '.',
  up: '↑',
  down: '↓',
  left: '←',
  right: '→',
  home: 'Home',
  delete: 'Delete',
  f1: 'F1',
};

const isMac = (): boolean => /^Mac/.test(globalThis.navigator?.platform ?? '');

/** "Ctrl K" of "mod+k": as it is written on the keys of this computer. */
export function keyText(keys: string): string {
  const held: Readonly<Record<string, string>> = isMac() ? { mod: '⌘', alt: '⌥' } : { mod: 'Ctrl', alt: 'Alt' };
  return (keys.split(',')[0] ?? '')
    .split('+')
    .map((k) => held[k] ?? WORDS[k] ?? (k.length === 1 ? k.toUpperCase() : k))
    .join(' ');
}

/** The command that a key calls, of all that are offered. */
export const commandFor = (event: KeyPress, commands: readonly Command[]): Command | undefined =>
  commands.find((c) => c.keys && isPressed(c.keys, event));
