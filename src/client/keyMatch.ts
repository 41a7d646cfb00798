/** What of a keyboard event tells which key was meant. */
export type KeyPress = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>;

/** Keys that are called by a name; the values are those of `KeyboardEvent.key` (UI Events KeyboardEvent key Values). */
const NAMED: Readonly<Record<string, readonly string[]>> = {
  space: [' '],
  left: ['ArrowLeft'],
  right: ['ArrowRight'],
  up: ['ArrowUp'],
  down: ['ArrowDown'],
  home: ['Home'],
  end: ['End'],
  delete: ['Delete', 'Backspace'],
  escape: ['Escape'],
  enter: ['Enter'],
  f1: ['F1'],
};

/** Signs, wherever a keyboard has them and whatever must be held for them. */
const SIGNS: Readonly<Record<string, readonly string[]>> = {
  question: ['?'],
  equal: ['=', '+'],
  minus: ['-', '−'],
  comma: [','],
  period: ['.'],
};

const MEANT = /^[\d?=+,.−-]$/;

/**
 * Whether a key was pressed that is written like "mod+shift+z": by what the keyboard gives, not by where the key lies.
 * Keyboards without Latin letters, and those whose digits need Shift, are read by the key's place.
 */
export function isPressed(keys: string, e: KeyPress): boolean {
  const parts = keys.toLowerCase().split('+');
  const base = parts.at(-1)!;
  if (parts.includes('mod') !== (e.ctrlKey || e.metaKey) || parts.includes('alt') !== e.altKey) return false;
  const sign = SIGNS[base];
  if (sign) return sign.includes(e.key);
  // Where digits need Shift, the key without it will do, unless it gives a sign that means something else.
  if (/^\d$/.test(base)) return e.key === base || (e.code === `Digit${base}` && !MEANT.test(e.key) && !e.shiftKey);
  if (parts.includes('shift') !== e.shiftKey) return false;
  const named = NAMED[base];
  if (named) return named.includes(e.key);
  const key = e.key.toLowerCase();
  // A letter of another script says nothing about which command was meant.
  return /^[a-z]$/.test(key)
    ? key === base
    : e.key.length === 1 && /[^\u0000-\u024f]/.test(e.key) && e.code === `Key${base.toUpperCase()}`;
}
