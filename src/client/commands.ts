import { create } from 'zustand';

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

/** "Ctrl K" of "mod+k". */
export const keyText = (keys: string): string =>
  (keys.split(',')[0] ?? '')
    .split('+')
    .map(
      (k) =>
        ({
          mod: 'Ctrl',
          shift: 'Shift',
          alt: 'Alt',
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
        })[k] ?? (k.length === 1 ? k.toUpperCase() : k),
    )
    .join(' ');
