import same from 'fast-deep-equal';
import { create } from 'zustand';
import { allChecks, placeDots, type Check } from '@/core/checks';
import { ask } from './http';
import { onPrint, useSession } from './session';
import { live } from './studio';

interface Checks {
  checks: Check[];
  dots: ReturnType<typeof placeDots> | null;
}

/** All findings on the open session. */
export const useChecks = create<Checks>(() => ({ checks: [], dots: null }));

/** What arrives on the lines is looked at so often, whatever changes (ms). */
const EACH = 1000;
/** Of changes that follow each other faster, as while something is dragged, only some are looked at (ms). */
const LEAST = 100;

/** Looks at the session once for each change, for all who show what was found; returns what ends it. */
export function watchChecks(session: string): () => void {
  let printed = false;
  let due: ReturnType<typeof setTimeout> | null = null;
  let looked = 0;
  const look = () => {
    due = null;
    looked = performance.now();
    const { doc } = useSession.getState();
    if (!doc) return;
    const before = new Map(useChecks.getState().checks.map((c) => [c.id, c]));
    // What is found again as it was is the same to those who draw it.
    const checks = allChecks(doc, live()).map((c) => (same(before.get(c.id), c) ? before.get(c.id)! : c));
    const found = { checks, dots: placeDots(doc, checks, printed) };
    // Looked at each second: what is found again is no news to those who show it.
    if (!same(found, useChecks.getState())) useChecks.setState(found);
  };
  const soon = () => void (due ??= setTimeout(look, Math.max(0, LEAST - (performance.now() - looked))));
  const ends = [
    useSession.subscribe((now, before) => {
      if (now.doc !== before.doc) soon();
    }),
    onPrint((print) => {
      if ((print as { state: string }).state !== 'done') return;
      printed = true;
      soon();
    }),
  ];
  const timer = setInterval(soon, EACH);
  void ask<{ state: string }[]>(`/api/sessions/${session}/prints`).then(
    (list) => {
      printed ||= list.some((p) => p.state === 'done');
      soon();
    },
    () => {},
  );
  look();
  return () => {
    ends.forEach((end) => end());
    clearInterval(timer);
    if (due) clearTimeout(due);
    useChecks.setState({ checks: [], dots: null });
  };
}
