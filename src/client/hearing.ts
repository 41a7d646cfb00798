import { create } from 'zustand';
import type { SessionDoc, Track } from '@/core/session';
import { frozenNow, listeners, playerNow, setHeardFrom, tracksHeard } from './engine';
import { useSession } from './session';
import { locate, play, position, stop } from './transport';
import { useTransport } from './transportState';

/** A take that is listened to in the place of its track's comp. */
export interface Heard {
  track: string;
  take: string;
  /** Without the other tracks. */
  alone: boolean;
  /** dB that bring it level with the other takes. */
  gain: number;
}

export const useHearing = create<{ heard: Heard | null }>(() => ({ heard: null }));

/** Tracks as they are heard: with the take that is listened to in the place of its track's clips. */
export function heardTracks(doc: SessionDoc, heard: Heard | null): Track[] {
  if (!heard) return doc.tracks;
  return doc.tracks.map((track) => {
    if (track.id !== heard.track) return heard.alone ? { ...track, clips: [] } : track;
    const take = track.takes.find((t) => t.id === heard.take);
    if (!take) return track;
    const { media, start, length } = take;
    return { ...track, clips: [{ id: take.id, media, start, offset: 0, length, gain: heard.gain, name: '' }] };
  });
}

/** Listens to a take from its start, or from where it plays already; solo and mute of the session stay as they are. */
export function hearTake(heard: Heard): void {
  const { doc } = useSession.getState();
  const take = doc?.tracks.find((t) => t.id === heard.track)?.takes.find((t) => t.id === heard.take);
  const { state } = useTransport.getState();
  if (!doc || !take || state === 'recording' || state === 'starting') return;
  useHearing.setState({ heard });
  const at = position();
  const within = at >= take.start && at < take.start + take.length;
  // A frozen track has no chain meanwhile that a take could go through.
  if (state === 'playing' && within && !frozenNow().has(heard.track)) playerNow()?.refresh(tracksHeard(doc));
  else if (state === 'playing') {
    locate(within ? at : take.start);
    useHearing.setState({ heard });
  } else {
    if (!within) locate(take.start);
    void play();
  }
}

/** Back to the comp. */
export function hearComp(): void {
  if (!useHearing.getState().heard) return;
  stop();
}

listeners.rolled.add(() => useHearing.setState({ heard: null }));
setHeardFrom(
  (doc) => heardTracks(doc, useHearing.getState().heard),
  () => useHearing.getState().heard?.track ?? null,
);
