'use client';
import type { ComponentProps, MouseEvent } from 'react';

/**
 * Goes to another place of the open session without asking the server: a page that is loaded anew would lose the sound
 * that runs, and one that cannot be loaded would lose everything.
 */
export function goTo(session: string, place: string): void {
  window.history.pushState(null, '', `/s/${session}/${place}`);
}

/** A link to a place; with a key held down the browser opens it elsewhere, as with any other. */
export function PlaceLink({
  session,
  place,
  children,
  ...rest
}: { session: string; place: string } & Omit<ComponentProps<'a'>, 'href' | 'onClick'>) {
  const follow = (e: MouseEvent) => {
    if (e.metaKey || e.ctrlKey || e.shiftKey || e.altKey || e.button !== 0) return;
    e.preventDefault();
    goTo(session, place);
  };
  return (
    <a {...rest} href={`/s/${session}/${place}`} onClick={follow}>
      {children}
    </a>
  );
}
