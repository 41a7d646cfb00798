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
  playStretch,
  position,
  rollBack,
  selectClips,
  setMode,
  setStretch,
  trackSelected,
  useCue,
  docNow,
  useDoc,
  useHearing,
  useSelection,
  useStretch,
  useTransport,
  type Command,
} from '@/client';
import {
  armForCue,
  endOf,
  trackOfCharacter,
  takeText,
  type Clip,
  type EditJson,
  type RecordMode,
  type SessionDoc,
  type Take,
  type Track,
} from '@/core/session';
import { copyClips, cutClips, pasteClips } from './clipboard';
import { toggleOpen, useFloor } from './floorState';
import { cueBeside, shownCues } from './script/shownCues';
import { toggleLanes, useLanes } from '@/parts';
import { changeRide, nudgeLevel } from './laneRows/rideKeys';
import { useLevelMatch } from './loudness';
import { frameOf } from './snapping';
import { fit, scrollBy, zoomBy } from './view';

const chosenClips = (): Clip[] => {
  const { clips } = useSelection.getState();
  return docNow().tracks.flatMap((t) => t.clips.filter((c) => clips.includes(c.id)));
};

/**
 * The take that is meant: the chosen one, that of the chosen clip, the newest of the chosen cue, the newest of the chosen
 * track; with nothing chosen, the newest of the armed track.
 */
export function takeMeant(from: SessionDoc, cue: string | null): { track: Track; take: Take } | undefined {
  const { selected } = useSelection.getState();
  const track = trackSelected(from);
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
  const found = takeMeant(docNow(), useCue.getState().chosen);
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
  const under = (chosen.length ? chosen : docNow().tracks.flatMap((t) => t.clips)).filter(
    (c) => c.start < at && c.start + c.length > at && !c.locked,
  );
  if (under.length === 0) toast.message('No clip lies under the playhead.');
  else edit(...under.map((c): EditJson => ({ type: 'splitClip', clip: c.id, at, id: `split-${nanoid(8)}` })));
}

function toCue(by: 1 | -1): void {
  const next = cueBeside(docNow(), useFloor.getState().cues, chosenCue(), position(), by);
  if (!next) {
    const filtered = shownCues(docNow(), useFloor.getState().cues).length < docNow().cues.length;
    return void toast.message(
      `There is no cue ${by > 0 ? 'after' : 'before'} this one${filtered ? ' among those that the script shows' : ''}.`,
      { id: 'no-cue' },
    );
  }
  chooseCue(next.id);
  locate(next.start);
}

/** What is worked on, from its start: the stretch, the chosen take or clip, the cue. */
function again(round: boolean): void {
  const { stretch } = useStretch.getState();
  const { selected } = useSelection.getState();
  const cue = chosenCue();
  const clips = chosenClips();
  const take = selected?.kind === 'take' ? takeMeant(docNow(), null)?.take : undefined;
  const line =
    stretch ??
    (take
      ? { start: take.start, end: take.start + take.length }
      : clips.length
        ? { start: Math.min(...clips.map((c) => c.start)), end: Math.max(...clips.map((c) => c.start + c.length)) }
        : cue);
  if (!line)
    toast.message('Nothing is chosen. Choose a cue, a clip, a take or a stretch of the ruler.', { id: 'no-line' });
  else void playStretch({ start: line.start, end: line.end }, round);
}

/** Arms the track of who speaks the chosen cue. */
function armChosen(): void {
  const cue = chosenCue();
  if (!cue) return void toast.message('No cue is chosen.', { id: 'no-cue' });
  const own = trackOfCharacter(docNow(), cue.character);
  if (!own)
    return void toast.message(
      cue.character ? `No track is called ${cue.character}.` : `Cue ${cue.number} has no character.`,
      { id: 'no-cue' },
    );
  const edits = armForCue(docNow(), cue);
  if (edits.length) edit(...edits);
  toast.message(`${own.name} is armed for cue ${cue.number}.`, { id: 'armed' });
}

/** Rates the take that is meant, and shows it as chosen where nothing else was. */
function rate(by: 1 | -1): void {
  const now = judged();
  if (!now) return;
  const rating = Math.max(0, Math.min(5, (now.take.rating ?? 0) + by));
  if (edit({ type: 'setTake', track: now.track.id, take: now.take.id, rating }))
    toast.message(`${now.track.name}, ${takeText(docNow(), now.track, now.take)}: ${rating} of 5.`, { id: 'rated' });
}

/** The take that is judged; it is shown as chosen from now on, unless a clip of it is. */
function judged(): { track: Track; take: Take } | undefined {
  const now = chosenTake();
  const { selected } = useSelection.getState();
  if (now && selected?.kind !== 'clip')
    useSelection.setState({ selected: { kind: 'take', id: now.take.id }, clips: [] });
  return now;
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

export function floorCommands(match: (take: string) => number): Command[] {
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
  const frame = () => frameOf(docNow());
  const ids = () => chosenClips().map((c) => c.id);
  return [
    time('closer', 'Closer', 'equal', () => zoomBy(0.6, position())),
    time('farther', 'Farther', 'minus', () => zoomBy(1 / 0.6, position())),
    time('fit', 'Show everything', 'f', () => fit(0, Math.max(endOf(docNow()), docNow().range.end) * 1.02)),
    time('earlier', 'Scroll earlier', 'comma', () => scrollBy(-200)),
    time('later', 'Scroll later', 'period', () => scrollBy(200)),
    time('again', 'Play this line again', 'p', () => again(false)),
    time('round', 'Play this line round and round', 'shift+p', () => again(true)),
    time('marker', 'Set a marker at the playhead', 'e', () =>
      edit({
        type: 'setMarker',
        marker: `mark-${nanoid(6)}`,
        at: Math.round(position()),
        name: `M${docNow().markers.length + 1}`,
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
    clip('left-ms', 'A millisecond earlier', 'shift+left', () => nudge(-docNow().format.sampleRate / 1000)),
    clip('right-ms', 'A millisecond later', 'shift+right', () => nudge(docNow().format.sampleRate / 1000)),
    clip('left-sample', 'A sample earlier', 'alt+left', () => nudge(-1)),
    clip('right-sample', 'A sample later', 'alt+right', () => nudge(1)),
    clip('split', 'Cut at the playhead', 't', splitHere),
    clip('all', 'Choose all clips of the selected track, or all', 'mod+a', () => {
      const track = trackSelected(docNow());
      selectClips((track ? [track] : docNow().tracks).flatMap((t) => t.clips.map((c) => c.id)));
    }),
    clip('cut-clips', 'Cut clips out', 'mod+x', () => cutClips(docNow(), chosenClips())),
    clip('copy', 'Copy clips', 'mod+c', () => copyClips(docNow(), chosenClips())),
    clip('paste', 'Place what was cut or copied at the playhead', 'mod+v', () => pasteClips(Math.round(position()))),
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
    clip('mute-clips', 'Mute or unmute the clips', 'alt+m', () => {
      const chosen = chosenClips();
      if (chosen.length) edit({ type: 'shapeClips', clips: ids(), muted: !chosen.every((c) => c.muted) });
    }),
    clip('remove-clip', 'Remove the chosen clips', 'delete', () => {
      if (ids().length) edit({ type: 'removeClips', clips: ids() });
    }),
    take('open', 'Show or fold the takes', 'o', () => {
      const track = trackSelected(docNow()) ?? docNow().tracks.find((t) => t.armed);
      if (track) toggleOpen(track.id);
    }),
    track('lanes', 'Show or hide the lanes of the selected track', 'v', () => {
      const chosen = trackSelected(docNow());
      if (chosen) toggleLanes(docNow(), chosen.id);
    }),
    track('ride', 'Ride its level: while held, from here on, not', 'shift+v', changeRide),
    track('louder', 'Its level up by half a dB', 'alt+up', () => nudgeLevel(0.5)),
    track('softer', 'Its level down by half a dB', 'alt+down', () => nudgeLevel(-0.5)),
    take('circle', 'Circle the take', 'c', () => {
      const now = judged();
      if (now) edit({ type: 'setTake', track: now.track.id, take: now.take.id, circled: !now.take.circled });
    }),
    take('better', 'Rate the take one higher', 'x', () => rate(1)),
    take('worse', 'Rate the take one lower', 'shift+x', () => rate(-1)),
    take('note', 'Write a note on the take', 'j', () => {
      const now = judged();
      if (now) useFloor.setState({ noting: { track: now.track.id, take: now.take.id } });
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
    record('arm-cue', 'Arm the track of the cue’s character', 'shift+a', () => armChosen()),
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
  const match = useLevelMatch(selected ? trackSelected(all) : undefined);
  const latest = useRef(match);
  useEffect(() => {
    latest.current = match;
  });
  useEffect(
    () =>
      offer(
        'floor',
        floorCommands((take) => latest.current(take)),
      ),
    [],
  );
  return null;
}
