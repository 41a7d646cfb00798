import { createStore } from 'zustand/vanilla';
import type { SessionDoc, Track } from '@/core/session';

/** A take that is listened to in the place of its track's comp. */
export interface Heard {
  track: string;
  take: string;
  /** Without the other tracks. */
  alone: boolean;
  /** dB that bring it level with the other takes. */
  gain: number;
}

/** Which take is listened to, and the tracks as they are heard with it. */
export class HeardTake {
  readonly state = createStore<{ heard: Heard | null }>(() => ({ heard: null }));

  set(heard: Heard | null): void {
    this.state.setState({ heard });
  }

  /** The track that plays a take; null: none. */
  get track(): string | null {
    return this.state.getState().heard?.track ?? null;
  }

  /** Tracks as they are heard: with the take in the place of its track's clips. */
  tracks(doc: SessionDoc): Track[] {
    const { heard } = this.state.getState();
    if (!heard) return doc.tracks;
    return doc.tracks.map((track) => {
      if (track.id !== heard.track) return heard.alone ? { ...track, clips: [] } : track;
      const take = track.takes.find((t) => t.id === heard.take);
      if (!take) return track;
      const { media, start, length } = take;
      return { ...track, clips: [{ id: take.id, media, start, offset: 0, length, gain: heard.gain, name: '' }] };
    });
  }
}
