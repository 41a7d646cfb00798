import { createStore } from 'zustand/vanilla';
import { chainDelay } from '@/core/engine';
import type { SessionDoc, SessionFormat } from '@/core/session';
import type { Guard } from '../session';
import type { SessionAccess } from './access';
import type { Takes } from './takes';
import type { Transport } from './transport';

/** What a recording is written as; the layout of the mix may change meanwhile. */
const WRITTEN_AS = ['sampleRate', 'wordLength', 'fileKind', 'perChannel', 'frameRate', 'startTimecode'] as const;
const writtenOtherwise = (a: SessionFormat, b: SessionFormat): boolean =>
  WRITTEN_AS.some((k) => (a[k] ?? false) !== (b[k] ?? false));

/** While something is recorded its format stays, and a change of its chain is asked once. */
export class WhileRecording {
  /** A change of a chain that a take goes through right now: it waits until it was asked for once. */
  readonly question = createStore<{ lines: string[]; again: (() => void) | null }>(() => ({ lines: [], again: null }));
  private consented = false;
  private readonly ends: (() => void)[];

  constructor(
    session: SessionAccess,
    private readonly takes: Takes,
    private readonly transport: Transport,
  ) {
    // The next roll is asked anew.
    transport.events.on('rolled', () => {
      this.consented = false;
      this.ask([], null);
    });
    const beforeLeaving = (event: BeforeUnloadEvent) => {
      if (!this.recording && !takes.underWay()) return;
      // The browser asks; what is kept by then is told by the next page.
      event.preventDefault();
    };
    globalThis.addEventListener?.('beforeunload', beforeLeaving);
    this.ends = [session.guard(this.look), () => globalThis.removeEventListener?.('beforeunload', beforeLeaving)];
  }

  private get recording(): boolean {
    return this.transport.state.getState().state === 'recording';
  }

  private ask(lines: string[], again: (() => void) | null): void {
    this.question.setState({ lines, again });
  }

  /** Whether the change is made after all, and those that follow in this roll with it. */
  answer(yes: boolean): void {
    const { again } = this.question.getState();
    this.ask([], null);
    if (!yes) return;
    this.consented = true;
    again?.();
  }

  private changedChains(before: SessionDoc, after: SessionDoc) {
    return [...this.takes.linesRecorded()].flatMap((id) => {
      const [was, now] = [before, after].map((d) => d.lines.find((l) => l.id === id));
      return was && now && JSON.stringify(was.chain) !== JSON.stringify(now.chain) ? [{ was, now }] : [];
    });
  }

  private readonly look: Guard = (before, after, again) => {
    if (writtenOtherwise(before.format, after.format) && (this.recording || this.takes.underWay()))
      return this.recording
        ? 'The format stays as long as something is recorded: a take is written in one format. Stop first; nothing was changed.'
        : 'A take waits to be delivered to the server, so the format stays until it is there. Nothing was changed.';
    if (!this.recording) return null;
    const changed = this.changedChains(before, after);
    if (changed.length === 0) return null;
    const rate = before.format.sampleRate;
    const shifted = changed.find(({ was, now }) => chainDelay(was.chain, rate) !== chainDelay(now.chain, rate));
    if (shifted)
      return `${shifted.now.name} is being recorded. This stage works with look-ahead: from here on the take would lie at another place than its dry copy. Stop first; nothing was changed.`;
    if (this.consented) return null;
    this.ask(
      changed.map(({ now }) => now.name),
      again,
    );
    return 'asked';
  };

  close(): void {
    this.ends.forEach((end) => end());
  }
}
