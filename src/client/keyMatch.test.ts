import { describe, expect, it } from 'vitest';
import { isPressed, type KeyPress } from './keyMatch';

const press = (key: string, code: string, held: Partial<KeyPress> = {}): KeyPress => ({
  key,
  code,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  ...held,
});

// Codes are places on a US keyboard (UI Events KeyboardEvent code Values, W3C): on QWERTZ the key at KeyY gives "z".
describe('keys', () => {
  it.each<[string, string, KeyPress, boolean]>([
    ['US: undo', 'mod+z', press('z', 'KeyZ', { ctrlKey: true }), true],
    ['QWERTZ: undo is where Y lies', 'mod+z', press('z', 'KeyY', { ctrlKey: true }), true],
    ['QWERTZ: Ctrl+Y does not undo', 'mod+z', press('y', 'KeyZ', { ctrlKey: true }), false],
    ['QWERTZ: redo', 'mod+shift+z', press('Z', 'KeyY', { ctrlKey: true, shiftKey: true }), true],
    ['undo is not redo', 'mod+z', press('Z', 'KeyY', { ctrlKey: true, shiftKey: true }), false],
    ['a Mac: undo', 'mod+z', press('z', 'KeyZ', { metaKey: true }), true],
    ['US: the keys', 'question', press('?', 'Slash', { shiftKey: true }), true],
    ['QWERTZ: the keys', 'question', press('?', 'Minus', { shiftKey: true }), true],
    ['AZERTY: the keys', 'question', press('?', 'KeyM', { shiftKey: true }), true],
    ['AZERTY: a letter', 'a', press('a', 'KeyQ'), true],
    ['AZERTY: the letter where A lies elsewhere', 'a', press('q', 'KeyA'), false],
    ['AZERTY: a digit without Shift', '3', press('"', 'Digit3'), true],
    ['AZERTY: a digit with Shift', '3', press('3', 'Digit3', { shiftKey: true }), true],
    ['numeric keypad', '3', press('3', 'Numpad3'), true],
    ['another digit', '3', press('4', 'Digit4'), false],
    ['QWERTZ: closer', 'equal', press('+', 'BracketRight'), true],
    ['farther', 'minus', press('-', 'Slash'), true],
    ['Cyrillic: by its place', 'r', press('к', 'KeyR'), true],
    ['Cyrillic: another place', 'r', press('е', 'KeyT'), false],
    ['QWERTZ: an umlaut is no command', 'r', press('ü', 'BracketLeft'), false],
    ['space', 'space', press(' ', 'Space'), true],
    ['an arrow with Shift', 'shift+left', press('ArrowLeft', 'ArrowLeft', { shiftKey: true }), true],
    ['an arrow without it', 'shift+left', press('ArrowLeft', 'ArrowLeft'), false],
    ['a letter with Ctrl is another key', 'r', press('r', 'KeyR', { ctrlKey: true }), false],
    ['back space removes too', 'delete', press('Backspace', 'Backspace'), true],
  ])('%s', (_, keys, event, wanted) => expect(isPressed(keys, event)).toBe(wanted));
});
