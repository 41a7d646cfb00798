/** Where the focus was, oldest first; the body stands for nowhere. */
const was: Element[] = [];
const MOST = 24;

function note(element: Element): void {
  if (was.at(-1) !== element) was.push(element);
  if (was.length > MOST) was.shift();
}

let held = false;

/** Whether a key is down. */
export const keyHeld = (): boolean => held;

/** Follows where the focus is, for those that give it back, and whether a key is down. */
export function followFocus(): () => void {
  const down = () => (held = true);
  const up = () => (held = false);
  document.addEventListener('keydown', down, true);
  document.addEventListener('keyup', up, true);
  const into = (e: FocusEvent) => note(e.target as Element);
  const out = (e: FocusEvent) => {
    // What is taken away loses the focus too, but nobody left it.
    if (e.relatedTarget === null) queueMicrotask(() => (e.target as Element).isConnected && note(document.body));
  };
  document.addEventListener('focusin', into);
  document.addEventListener('focusout', out);
  return () => {
    document.removeEventListener('focusin', into);
    document.removeEventListener('focusout', out);
    document.removeEventListener('keydown', down, true);
    document.removeEventListener('keyup', up, true);
  };
}

/** The element that had the focus last, outside of `left`, and is still there: what opened it, or nothing. */
export function focusBefore(left: Element | null): HTMLElement | null {
  const found = was.findLast((e) => e.isConnected && !left?.contains(e) && !e.closest('[role="dialog"],[role="menu"]'));
  return found instanceof HTMLElement && found !== document.body ? found : null;
}
