/**
 * Whether the focus was brought to where it is by keys. A control that was clicked keeps the focus, but whoever clicked it
 * does not look at it any more: Space plays then, as from everywhere.
 */
let byKeys = false;
let moving = false;

const MOVES = /^(Tab|Arrow|Home|End|Page)/;

/** Follows how the focus is moved; returns what ends it. */
export function watchFocus(): () => void {
  const down = (e: KeyboardEvent) => (moving = MOVES.test(e.key));
  const up = () => (moving = false);
  const pointed = () => (byKeys = moving = false);
  const focused = () => (byKeys ||= moving);
  const at = { capture: true };
  document.addEventListener('keydown', down, at);
  document.addEventListener('keyup', up, at);
  document.addEventListener('pointerdown', pointed, at);
  document.addEventListener('focusin', focused, at);
  return () => {
    document.removeEventListener('keydown', down, at);
    document.removeEventListener('keyup', up, at);
    document.removeEventListener('pointerdown', pointed, at);
    document.removeEventListener('focusin', focused, at);
  };
}

const PRESSED = 'button, summary, [role="button"], [role="tab"], [role="checkbox"], [role="combobox"]';
const ANSWERS = '[role="switch"], [role="radio"], [role="option"], [role="menuitem"]';
/** What is being moved by keys: arrows move it, and nothing else. */
const CARRIED = '[aria-roledescription="sortable"][aria-pressed="true"]';

/**
 * Whether the control that a key was pressed on answers to it itself: Space presses it (but a link, which is followed by
 * Enter), arrows move it, digits are typed into it.
 */
export function ownKey(on: EventTarget | null, e: Pick<KeyboardEvent, 'key'>): boolean {
  if (!(on instanceof Element) || on === document.body) return false;
  if (on.matches(CARRIED)) return true;
  if (e.key === ' ') return on.matches(ANSWERS) || (byKeys && on.matches(PRESSED));
  if (/^(Arrow|Home|End|Page)/.test(e.key)) return on.matches('[role="radio"], [role="slider"], [role="spinbutton"]');
  if (e.key === 'Enter') return on.matches(`${PRESSED}, ${ANSWERS}, a, [role="spinbutton"]`);
  return /^[-−+.,\d]$/.test(e.key) && on.matches('[role="spinbutton"]');
}
