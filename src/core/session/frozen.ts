import CRC32 from 'crc-32';
import type { Clip, Fade, Frozen, SessionDoc, Stage, Track } from './document';
import { entryOf } from './ids';

// Lists, not objects: a session that comes back from the database has the members of its objects in another order.
const fadeOf = (fade: Fade | undefined) => (fade ? [fade.frames, fade.curve, fade.same ?? false] : null);

/** What of a clip is heard: its id, name, lock and group are not. */
const soundOf = (c: Clip) => [
  ...[c.media, c.start, c.offset, c.length, c.gain, c.muted ?? false],
  ...[c.fadeIn, c.fadeOut, c.joint].map(fadeOf),
];

const stageOf = ({ id, type, on, key, values }: Stage) => [
  ...[id, type, on, key ?? null],
  Object.entries(values).sort(([one], [other]) => (one < other ? -1 : 1)),
];

interface Known {
  made: readonly unknown[];
  from: number;
}
// Asked at every change of the session while it plays: what did not change is not read again.
const known = new WeakMap<readonly Clip[], Known>();

/** Fingerprint (CRC-32) of everything that a track's sound behind its chain is made from. */
export function frozenFrom(doc: SessionDoc, track: Track): number {
  const made = [track.id, track.layout, doc.format.sampleRate, track.chain, doc.lanes];
  const before = known.get(track.clips);
  if (before?.made.every((m, i) => m === made[i])) return before.from;
  const from = fingerprint(doc, track);
  // A document that may still change must not be remembered.
  if (Object.isFrozen(track.clips) && Object.isFrozen(track.chain) && Object.isFrozen(doc.lanes))
    known.set(track.clips, { made, from });
  return from;
}

function fingerprint(doc: SessionDoc, track: Track): number {
  const lanes = Object.values(doc.lanes)
    .filter((l) => l.target.node === track.id && l.target.stage && l.on)
    .map((l) => [`${l.target.stage} ${l.target.param}`, l.points.map((p) => [p.at, p.value, p.shape])] as const)
    .sort(([one], [other]) => (one < other ? -1 : 1));
  const made = [track.layout, doc.format.sampleRate, track.clips.map(soundOf), track.chain.map(stageOf), lanes];
  return CRC32.str(JSON.stringify(made));
}

/** Why a track cannot be frozen, in a sentence; null where it can. */
export function freezeFault(doc: SessionDoc, track: Track): string | null {
  if (!track.clips.some((c) => !c.muted)) return `${track.name} has no clip that sounds; there is nothing to freeze.`;
  const keyed = track.chain.find((s) => s.on && s.key);
  if (keyed)
    return `A stage of ${track.name} listens to another sound, so what it gives changes with that. Take its key away, or bypass it, to freeze the track.`;
  const early = track.sends.find((s) => s.on && s.tap === 'arriving');
  if (early) {
    const to = doc.buses.find((b) => b.id === early.to)?.name ?? early.to;
    return `${track.name} is sent to ${to} from before its chain, which a frozen track has no more. Take that send from behind the chain to freeze the track.`;
  }
  return null;
}

/** Whether what a track was frozen from is what it has now. Where not, it plays from its clips and chain. */
export function isFresh(doc: SessionDoc, track: Track): boolean {
  const { frozen } = track;
  return (
    frozen !== undefined &&
    entryOf(doc.media, frozen.media) !== undefined &&
    freezeFault(doc, track) === null &&
    frozenFrom(doc, track) === frozen.from
  );
}

/** Frozen sound by the tracks that play it. */
export type FrozenTracks = ReadonlyMap<string, Frozen>;

/** The tracks that play what they were frozen to, as the session is. */
export const freshOf = (doc: SessionDoc): FrozenTracks =>
  new Map(doc.tracks.flatMap((t) => (t.frozen && isFresh(doc, t) ? [[t.id, t.frozen] as const] : [])));

/** The session with the given tracks playing what they were frozen to, in the place of their clips and chains. */
export function playedOf(doc: SessionDoc, frozen: FrozenTracks = freshOf(doc)): SessionDoc {
  if (frozen.size === 0) return doc;
  return { ...doc, tracks: doc.tracks.map((t) => frozenTrack(doc, t, frozen.get(t.id))) };
}

function frozenTrack(doc: SessionDoc, track: Track, frozen: Frozen | undefined): Track {
  const media = frozen && entryOf(doc.media, frozen.media);
  if (!frozen || !media) return track;
  const { frozen: _, ...rest } = track;
  const { frames } = media;
  const clip = { id: 'frozen', media: media.id, start: frozen.start, offset: 0, length: frames, gain: 0 };
  return { ...rest, chain: [], clips: [{ ...clip, name: `${track.name}, frozen` }] };
}
