import { create } from 'zustand';
import { chainDelay } from '@/core/engine';
import type { SessionDoc, SessionFormat } from '@/core/session';
import { addGuard } from './session';
import { linesRecorded, takesUnderWay } from './takes';
import type { RollState } from './transportState';

/** A change of a chain that a take goes through right now: it waits until it was asked for once. */
export const useChainQuestion = create<{ lines: string[]; again: (() => void) | null }>(() => ({
  lines: [],
  again: null,
}));

let consented = false;

/** The next roll is asked anew. */
export function forgetConsent(): void {
  consented = false;
  useChainQuestion.setState({ lines: [], again: null });
}

/** Whether the change is made after all, and those that follow in this roll with it. */
export function answerChainQuestion(yes: boolean): void {
  const { again } = useChainQuestion.getState();
  useChainQuestion.setState({ lines: [], again: null });
  if (!yes) return;
  consented = true;
  again?.();
}

/** What a recording is written as; the layout of the mix may change meanwhile. */
const WRITTEN_AS = ['sampleRate', 'wordLength', 'fileKind', 'perChannel', 'frameRate', 'startTimecode'] as const;
const writtenOtherwise = (a: SessionFormat, b: SessionFormat): boolean =>
  WRITTEN_AS.some((k) => (a[k] ?? false) !== (b[k] ?? false));

const changedChains = (before: SessionDoc, after: SessionDoc) =>
  [...linesRecorded()].flatMap((id) => {
    const [was, now] = [before, after].map((d) => d.lines.find((l) => l.id === id));
    return was && now && JSON.stringify(was.chain) !== JSON.stringify(now.chain) ? [{ was, now }] : [];
  });

/** While something is recorded its format stays, and a change of its chain is asked once. `rolling`: what the transport does. */
export function guardRecording(rolling: () => RollState): void {
  addGuard((before, after, again) => {
    if (writtenOtherwise(before.format, after.format) && (rolling() === 'recording' || takesUnderWay()))
      return rolling() === 'recording'
        ? 'The format stays as long as something is recorded: a take is written in one format. Stop first; nothing was changed.'
        : 'A take waits to be delivered to the server, so the format stays until it is there. Nothing was changed.';
    if (rolling() !== 'recording') return null;
    const changed = changedChains(before, after);
    if (changed.length === 0) return null;
    const rate = before.format.sampleRate;
    const shifted = changed.find(({ was, now }) => chainDelay(was.chain, rate) !== chainDelay(now.chain, rate));
    if (shifted)
      return `${shifted.now.name} is being recorded. This stage works with look-ahead: from here on the take would lie at another place than its dry copy. Stop first; nothing was changed.`;
    if (consented) return null;
    useChainQuestion.setState({ lines: changed.map(({ now }) => now.name), again });
    return 'asked';
  });
  globalThis.addEventListener?.('beforeunload', (event) => {
    if (rolling() !== 'recording' && !takesUnderWay()) return;
    // The browser asks; what is kept by then is told by the next page.
    event.preventDefault();
  });
}
