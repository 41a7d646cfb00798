/** Where the focus was, oldest first; the body stands for nowhere. */
const was: Element[] = [];
const MOST = 24;

function note(element: Element): void {
  if (was.at(-1) !== element) was.push(element);
  if (was.length > MOST) was.shift();
}

/** Follows where the focus is, for those that give it back. */
export function followFocus(): () => void {
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
  };
}

/** The element that had the focus last, outside of `left`, and is still there: what opened it, or nothing. */
export function focusBefore(left: Element | null): HTMLElement | null {
  const found = was.findLast((e) => e.isConnected && !left?.contains(e) && !e.closest('[role="dialog"],[role="menu"]'));
  return found instanceof HTMLElement && found !== document.body ? found : null;
}
