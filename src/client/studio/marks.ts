import { createStore } from 'zustand/vanilla';
import { cueAt, type Cue } from '@/core/session';
import type { SessionAccess } from './access';

/** Stretch of time that is chosen on the timeline, in samples; recorded, looped and filled by. */
export interface ChosenStretch {
  start: number;
  end: number;
}

/** What is chosen on the timeline: a stretch, and the cue that is worked on. */
export class Marks {
  readonly stretch = createStore<{ stretch: ChosenStretch | null }>(() => ({ stretch: null }));
  /** Null: the cue at the playhead. */
  readonly cue = createStore<{ chosen: string | null }>(() => ({ chosen: null }));

  constructor(private readonly session: SessionAccess) {}

  setStretch(stretch: ChosenStretch | null): void {
    this.stretch.setState({
      stretch: stretch && stretch.end > stretch.start ? { start: Math.max(0, stretch.start), end: stretch.end } : null,
    });
  }

  /** The chosen cue, or the one at the playhead. */
  chosenCue(playhead: number): Cue | undefined {
    const { doc } = this.session.getState();
    const { chosen } = this.cue.getState();
    return doc?.cues.find((c) => c.id === chosen) ?? (doc ? cueAt(doc, playhead) : undefined);
  }
}
