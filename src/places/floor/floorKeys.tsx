'use client';
import { nanoid } from 'nanoid';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import {
  chooseCue,
  chosenCue,
  edit,
  hearComp,
  hearTake,
  locate,
  offer,
  position,
  rollBack,
  setMode,
  setStretch,
  useCue,
  useDoc,
  useHearing,
  useSelection,
  useSession,
  useStretch,
  useTransport,
  type Command,
} from '@/client';
import {
  endOf,
  type Clip,
  type EditJson,
  type RecordMode,
  type SessionDoc,
  type Take,
  type Track,
} from '@/core/session';
import { toggleOpen } from './floorState';
import { toggleLanes, useLanes } from '@/parts';
import { changeRide, nudgeLevel } from './laneRows/rideKeys';
import { useLevelMatch } from './loudness';
import { frameOf } from './snapping';
import { fit, scrollBy, zoomBy } from './view';

const doc = (): SessionDoc => useSession.getState().doc!;
const chosenClips = (): Clip[] => {
  const { clips } = useSelection.getState();
  return doc().tracks.flatMap((t) => t.clips.filter((c) => clips.includes(c.id)));
};

/** The track that the selection is on. */
export function chosenTrack(from: SessionDoc): Track | undefined {
  const { selected } = useSelection.getState();
  if (!selected) return undefined;
  return from.tracks.find(
    (t) =>
      (selected.kind === 'track' && t.id === selected.id) ||
      (selected.kind === 'clip' && t.clips.some((c) => c.id === selected.id)) ||
      (selected.kind === 'take' && t.takes.some((k) => k.id === selected.id)),
  );
}

/**
 * The take that is meant: the chosen one, that of the chosen clip, the newest of the chosen cue, the newest of the chosen
 * track; with nothing chosen, the newest of the armed track.
 */
export function takeMeant(from: SessionDoc, cue: string | null): { track: Track; take: Take } | undefined {
  const { selected } = useSelection.getState();
  const track = chosenTrack(from);
  const of = (t: Track | undefined, wanted: (k: Take) => boolean) => {
    const take = t?.takes.filter(wanted).at(-1);
    return t && take ? { track: t, take } : undefined;
  };
  if (selected?.kind === 'take') return of(track, (k) => k.id === selected.id);
  if (selected?.kind === 'clip') {
    const media = track?.clips.find((c) => c.id === selected.id)?.media;
    return of(track, (k) => k.media === media);
  }
  const armed = from.tracks.filter((t) => t.armed && t.takes.length > 0);
  const rows = track ? [track] : [...armed, ...from.tracks];
  for (const row of cue ? rows : []) {
    const found = of(row, (k) => k.cue === cue);
    if (found) return found;
  }
  return of(track ?? armed[0], (k) => !k.imported) ?? of(track, () => true);
}

function chosenTake(): { track: Track; take: Take } | undefined {
  const found = takeMeant(doc(), useCue.getState().chosen);
  if (!found) toast.message('No take is chosen. Click one, or choose a cue that has takes.', { id: 'no-take' });
  return found;
}

/** Moves the chosen clips, or the playhead when none is chosen. */
function nudge(samples: number): void {
  const clips = chosenClips();
  if (clips.length)
    edit({
      type: 'moveClips',
      clips: clips.map((c) => c.id),
      by: Math.round(samples),
      lanes: useLanes.getState().withClips,
    });
  else locate(position() + samples);
}

function splitHere(): void {
  const at = Math.round(position());
  const chosen = chosenClips();
  const under = (chosen.length ? chosen : doc().tracks.flatMap((t) => t.clips)).filter(
    (c) => c.start < at && c.start + c.length > at && !c.locked,
  );
  if (under.length === 0) toast.message('No clip lies under the playhead.');
  else edit(...under.map((c): EditJson => ({ type: 'splitClip', clip: c.id, at, id: `split-${nanoid(8)}` })));
}

let copied: { id: string; track: string; start: number }[] = [];

function copyClips(): void {
  const ids = new Set(chosenClips().map((c) => c.id));
  copied = doc().tracks.flatMap((t) =>
    t.clips.filter((c) => ids.has(c.id)).map((c) => ({ id: c.id, track: t.id, start: c.start })),
  );
  if (copied.length) toast.message(`${copied.length} ${copied.length === 1 ? 'clip' : 'clips'} copied.`);
}

function pasteClips(): void {
  if (copied.length === 0) return;
  const first = Math.min(...copied.map((c) => c.start));
  const at = Math.round(position());
  edit({
    type: 'copyClips',
    copies: copied.map((c) => ({ of: c.id, id: `copy-${nanoid(8)}`, track: c.track, start: at + c.start - first })),
  });
}

function toCue(by: 1 | -1): void {
  const { cues } = doc();
  const now = cues.findIndex((c) => c.id === chosenCue()?.id);
  const next = cues[Math.max(0, Math.min(cues.length - 1, now + by))];
  if (!next) return;
  chooseCue(next.id);
  locate(next.start);
}

const MODES: RecordMode[] = ['free', 'range', 'cue', 'loop'];

function stepTake(by: 1 | -1, match: (take: string) => number): void {
  const now = chosenTake();
  if (!now) return;
  const at = now.track.takes.indexOf(now.take);
  const take = now.track.takes[Math.max(0, Math.min(now.track.takes.length - 1, at - by))]!;
  useSelection.setState({ selected: { kind: 'take', id: take.id }, clips: [] });
  if (useHearing.getState().heard) hearTake({ track: now.track.id, take: take.id, alone: false, gain: match(take.id) });
}

function commands(match: (take: string) => number): Command[] {
  const on =
    (group: string) =>
    (id: string, label: string, keys: string, run: () => void): Command => ({
      id,
      label,
      keys,
      group,
      run,
    });
  const time = on('Timeline');
  const clip = on('Clips');
  const take = on('Takes');
  const record = on('Record');
  const track = on('Lanes');
  const frame = () => frameOf(doc());
  const ids = () => chosenClips().map((c) => c.id);
  return [
    time('closer', 'Closer', 'equal', () => zoomBy(0.6, position())),
    time('farther', 'Farther', 'minus', () => zoomBy(1 / 0.6, position())),
    time('fit', 'Show everything', 'f', () => fit(0, Math.max(endOf(doc()), doc().range.end) * 1.02)),
    time('earlier', 'Scroll earlier', 'comma', () => scrollBy(-200)),
    time('later', 'Scroll later', 'period', () => scrollBy(200)),
    time('marker', 'Set a marker at the playhead', 'e', () =>
      edit({
        type: 'setMarker',
        marker: `mark-${nanoid(6)}`,
        at: Math.round(position()),
        name: `M${doc().markers.length + 1}`,
      }),
    ),
    time('stretch-cue', 'Choose the stretch of the cue', 'u', () => {
      const cue = chosenCue();
      if (cue) setStretch({ start: cue.start, end: cue.end });
    }),
    time('stretch-none', 'Choose no stretch', 'shift+u', () => setStretch(null)),
    time('range-stretch', 'Print the chosen stretch', '', () => {
      const { stretch } = useStretch.getState();
      if (stretch) edit({ type: 'setRange', ...stretch });
    }),
    clip('left', 'A frame earlier', 'left', () => nudge(-frame())),
    clip('right', 'A frame later', 'right', () => nudge(frame())),
    clip('left-ms', 'A millisecond earlier', 'shift+left', () => nudge(-doc().format.sampleRate / 1000)),
    clip('right-ms', 'A millisecond later', 'shift+right', () => nudge(doc().format.sampleRate / 1000)),
    clip('left-sample', 'A sample earlier', 'alt+left', () => nudge(-1)),
    clip('right-sample', 'A sample later', 'alt+right', () => nudge(1)),
    clip('split', 'Cut at the playhead', 't', splitHere),
    clip('copy', 'Copy clips', 'mod+c', copyClips),
    clip('paste', 'Place the copies at the playhead', 'mod+v', pasteClips),
    clip('again', 'Repeat the clip behind itself', 'mod+d', () => {
      const last = chosenClips().at(-1);
      if (last) edit({ type: 'repeatClip', clip: last.id, times: 1, id: `rep-${nanoid(8)}` });
    }),
    clip('group', 'Group or ungroup the clips', 'g', () => {
      const chosen = chosenClips();
      if (chosen.length)
        edit({ type: 'shapeClips', clips: ids(), group: chosen.some((c) => c.group) ? '' : `g-${nanoid(6)}` });
    }),
    clip('lock', 'Lock or unlock the clips', 'k', () => {
      const chosen = chosenClips();
      if (chosen.length) edit({ type: 'shapeClips', clips: ids(), locked: !chosen.every((c) => c.locked) });
    }),
    clip('mute-clips', 'Mute or unmute the clips', 'shift+m', () => {
      const chosen = chosenClips();
      if (chosen.length) edit({ type: 'shapeClips', clips: ids(), muted: !chosen.every((c) => c.muted) });
    }),
    clip('remove-clip', 'Remove the chosen clips', 'delete', () => {
      if (ids().length) edit({ type: 'removeClips', clips: ids() });
    }),
    take('open', 'Show or fold the takes', 'o', () => {
      const track = chosenTrack(doc()) ?? doc().tracks.find((t) => t.armed);
      if (track) toggleOpen(track.id);
    }),
    track('lanes', 'Show or hide the lanes of the selected track', 'v', () => {
      const chosen = chosenTrack(doc());
      if (chosen) toggleLanes(doc(), chosen.id);
    }),
    track('ride', 'Ride its level: while held, from here on, not', 'shift+v', changeRide),
    track('louder', 'Its level up by half a dB', 'alt+up', () => nudgeLevel(0.5)),
    track('softer', 'Its level down by half a dB', 'alt+down', () => nudgeLevel(-0.5)),
    take('circle', 'Circle the take', 'c', () => {
      const now = chosenTake();
      if (now) edit({ type: 'setTake', track: now.track.id, take: now.take.id, circled: !now.take.circled });
    }),
    take('hear', 'Listen to the take in its place', 'h', () => {
      const now = chosenTake();
      if (useHearing.getState().heard) hearComp();
      else if (now) hearTake({ track: now.track.id, take: now.take.id, alone: false, gain: match(now.take.id) });
    }),
    take('take-up', 'The take before', 'shift+up', () => stepTake(-1, match)),
    take('take-down', 'The take after', 'shift+down', () => stepTake(1, match)),
    record('cue-next', 'Next cue', 'n', () => toCue(1)),
    record('cue-before', 'Cue before', 'shift+n', () => toCue(-1)),
    record('mode', 'Change what the record key records', 'shift+r', () =>
      setMode(MODES[(MODES.indexOf(useTransport.getState().mode) + 1) % MODES.length]!),
    ),
    record('back', 'Back from a mistake, and on', 'b', () => void rollBack()),
    record('done', 'Mark the cue done, and on to the next', 'shift+c', () => {
      const cue = chosenCue();
      if (cue && edit({ type: 'setCue', cue: cue.id, done: true })) toCue(1);
    }),
  ];
}

/** What the keyboard and the command search reach on the floor. */
export function FloorKeys() {
  const all = useDoc();
  const selected = useSelection((s) => s.selected);
  const match = useLevelMatch(selected ? chosenTrack(all) : undefined);
  const latest = useRef(match);
  useEffect(() => {
    latest.current = match;
  });
  useEffect(
    () =>
      offer(
        'floor',
        commands((take) => latest.current(take)),
      ),
    [],
  );
  return null;
}
