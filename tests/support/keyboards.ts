// What keyboards send, as the XKB symbol files us, de, fr and ru lay them out (from memory), by the key codes of
// UI Events KeyboardEvent code Values (W3C).

interface Key {
  key: string;
  code: string;
  shiftKey?: boolean;
}

const row = (codes: readonly string[], signs: string): Key[] => [...signs].map((key, i) => ({ key, code: codes[i]! }));

const letters = (names: string) => [...names].map((l) => `Key${l}`);
const TOP = letters('QWERTYUIOP');
const HOME = [...letters('ASDFGHJKL'), 'Semicolon'];
const LOW = [...letters('ZXCVBNM'), 'Comma', 'Period', 'Slash'];
const DIGITS = [...'1234567890'].map((d) => `Digit${d}`);

const shifted = (keys: Key[]): Key[] => keys.map((k) => ({ ...k, shiftKey: true }));

/** Every key that a layout gives without and with Shift, as far as commands are called by it. */
export const KEYBOARDS: Readonly<Record<string, readonly Key[]>> = {
  us: [
    ...row(TOP, 'qwertyuiop'),
    ...row(HOME, 'asdfghjkl;'),
    ...row(LOW, 'zxcvbnm,./'),
    ...row(DIGITS, '1234567890'),
    { key: '-', code: 'Minus' },
    { key: '=', code: 'Equal' },
    ...shifted([
      { key: '+', code: 'Equal' },
      { key: '?', code: 'Slash' },
    ]),
  ],
  de: [
    ...row(TOP, 'qwertzuiop'),
    ...row(HOME, 'asdfghjklö'),
    ...row(LOW, 'yxcvbnm,.-'),
    ...row(DIGITS, '1234567890'),
    { key: '+', code: 'BracketRight' },
    ...shifted([{ key: '?', code: 'Minus' }]),
  ],
  fr: [
    ...row(TOP, 'azertyuiop'),
    ...row(HOME, 'qsdfghjklm'),
    ...row(LOW, 'wxcvbn,;:!'),
    ...row(DIGITS, '&é"\'(-è_çà'),
    { key: '=', code: 'Equal' },
    ...shifted([...row(DIGITS, '1234567890'), { key: '.', code: 'Comma' }, { key: '?', code: 'KeyM' }]),
  ],
  ru: [
    ...row(TOP, 'йцукенгшщз'),
    ...row(HOME, 'фывапролдж'),
    ...row(LOW, 'ячсмитьбю.'),
    ...row(DIGITS, '1234567890'),
    { key: '-', code: 'Minus' },
    { key: '=', code: 'Equal' },
    ...shifted([
      { key: '+', code: 'Equal' },
      { key: ',', code: 'Slash' },
      { key: '?', code: 'Digit7' },
    ]),
  ],
};

const NAMED: Readonly<Record<string, string>> = {
  Space: ' ',
  Home: 'Home',
  Delete: 'Delete',
  F1: 'F1',
  '↑': 'ArrowUp',
  '↓': 'ArrowDown',
  '←': 'ArrowLeft',
  '→': 'ArrowRight',
};

/**
 * The key event of a layout for what the keys sheet prints, such as "Ctrl Shift Z". A letter that the layout does not
 * have lies where it lies on a US keyboard. Throws where nobody could press it.
 */
export function typed(layout: string, printed: string): KeyboardEventInit {
  const words = printed.split(' ');
  const sign = words.at(-1)!;
  const held = {
    ctrlKey: words.includes('Ctrl'),
    altKey: words.includes('Alt'),
    shiftKey: words.includes('Shift'),
    bubbles: true,
    cancelable: true,
  };
  const name = NAMED[sign];
  if (name) return { ...held, key: name, code: name === ' ' ? 'Space' : name };
  const wanted = sign === '−' ? ['-'] : sign === '+' ? ['+', '='] : [sign.toLowerCase()];
  const keys = KEYBOARDS[layout]!;
  const found =
    keys.find((k) => wanted.includes(k.key)) ??
    (/^[A-Z]$/.test(sign) ? keys.find((k) => k.code === `Key${sign}` && /[^\u0000-\u024f]/.test(k.key)) : undefined);
  if (!found) throw new RangeError(`Nobody can press ${printed} on ${layout}.`);
  const shiftKey = held.shiftKey || (found.shiftKey ?? false);
  const letter = /^\p{L}$/u.test(found.key);
  return { ...held, code: found.code, shiftKey, key: shiftKey && letter ? found.key.toUpperCase() : found.key };
}
