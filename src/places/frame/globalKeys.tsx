'use client';
import { monitorOf } from '@/core/session';
import { usePathname } from 'next/navigation';
import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import {
  edit,
  foldInspector,
  commandFor,
  locate,
  offer,
  ownKey,
  record,
  toggle,
  toggleScheme,
  travel,
  useCommands,
  trackSelected,
  useSession,
  watchFocus,
  type Command,
  hearAs,
  useInRoom,
} from '@/client';
import { toast } from 'sonner';
import { goTo } from './placeLink';
import { PLACES } from './places';

/** In a window of its own: what sounds or is recorded goes on. */
export const openGuide = (): void => void window.open('/guide', '_blank', 'noopener');

const doc = () => useSession.getState().doc;

/** What works in every place. */
export function everywhere(session: string): Command[] {
  return [
    { id: 'roll', label: 'Play or stop', keys: 'space', group: 'Roll', run: toggle },
    { id: 'record', label: 'Record on all armed tracks', keys: 'r', group: 'Roll', run: () => void record() },
    {
      id: 'start',
      label: 'To the start of the range',
      keys: 'home',
      group: 'Roll',
      run: () => locate(doc()?.range.start ?? 0),
    },
    {
      id: 'dim',
      label: 'Dim the monitor',
      keys: 'd',
      group: 'Roll',
      run: () => edit({ type: 'setMonitor', dimmed: !monitorOf(doc()!).dimmed }),
    },
    {
      id: 'mute',
      label: 'Mute the monitor',
      keys: 'shift+d',
      group: 'Roll',
      run: () => edit({ type: 'setMonitor', muted: !monitorOf(doc()!).muted }),
    },
    {
      id: 'mono',
      label: 'Hear the monitor in mono, or as it is mixed',
      keys: 'shift+m',
      group: 'Roll',
      run: monoCheck,
    },
    { id: 'undo', label: 'Undo', keys: 'mod+z', group: 'Session', run: () => void travel('undo') },
    { id: 'redo', label: 'Redo', keys: 'mod+shift+z', group: 'Session', run: () => void travel('redo') },
    { id: 'lights', label: 'Lights up or down', keys: 'l', group: 'View', run: toggleScheme },
    { id: 'fold', label: 'Fold or unfold the inspector', keys: 'i', group: 'View', run: foldInspector },
    {
      id: 'search',
      label: 'Search for an action',
      keys: 'mod+k',
      group: 'View',
      run: () => useCommands.setState({ searchOpen: true }),
    },
    {
      id: 'keys',
      label: 'Show the keys',
      keys: 'question',
      group: 'View',
      run: () => useCommands.setState({ keysOpen: true }),
    },
    { id: 'guide', label: 'Read the guide', keys: 'f1', group: 'View', run: openGuide },
    ...PLACES.map((p) => ({
      id: `go-${p.id}`,
      label: `Go to ${p.name}`,
      keys: p.key,
      group: 'Places',
      run: () => goTo(session, p.id),
    })),
  ];
}

/** What works where tracks can be selected. */
export const onTrack = (): Command[] => [
  { id: 'arm', label: 'Arm the selected track', keys: 'a', group: 'Track', run: () => toggleTrack('armed') },
  { id: 'mute-track', label: 'Mute the selected track', keys: 'm', group: 'Track', run: () => toggleTrack('muted') },
  { id: 'solo-track', label: 'Solo the selected track', keys: 's', group: 'Track', run: () => toggleTrack('soloed') },
];

const WITH_TRACKS: readonly string[] = ['lineup', 'floor', 'flow', 'room'];

export function GlobalKeys({ session }: { session: string }) {
  const place = usePathname().split('/').at(-1)!;
  const tracks = WITH_TRACKS.includes(place);
  useEffect(() => offer('everywhere', everywhere(session)), [session]);
  useEffect(() => (tracks ? offer('track', onTrack()) : undefined), [tracks]);
  return <BindKeys />;
}

function monoCheck(): void {
  const { heardAs } = useInRoom.getState();
  hearAs(heardAs?.as === 'layout' && heardAs.layout === 'mono' ? null : { as: 'layout', layout: 'mono' });
}

function toggleTrack(what: 'armed' | 'muted' | 'soloed'): void {
  const track = trackSelected(doc()!);
  if (!track) return void toast.message('No track is selected. Click one, then press the key.', { id: 'no-track' });
  if (what === 'muted') edit({ type: 'setTrack', track: track.id, muted: !track.muted });
  else edit({ type: 'seatTrack', track: track.id, [what]: !track[what] });
}

/** Calls the commands that are offered by their keys. */
export function BindKeys() {
  const sets = useCommands((s) => s.sets);
  const all = Object.values(sets).flat();
  useEffect(() => watchFocus(), []);
  useHotkeys(
    '*',
    (event) => {
      // A figure that takes a digit has become a field by now: what counts is where the key was pressed.
      if (ownKey(event.target, event)) return;
      const command = commandFor(event, all);
      if (!command || document.querySelector('[role="dialog"]')) return;
      event.preventDefault();
      command.run();
    },
    // A control that was clicked keeps the focus: the record key must work all the same.
    { enableOnFormTags: ['radio', 'slider', 'spinbutton'], ignoreModifiers: true },
    [all],
  );
  // No text needs this key, and a field is where one often is when something is looked for.
  useHotkeys(
    '*',
    (event) => {
      const search = all.find((c) => c.id === 'search');
      if (!search || !isTyping(event.target) || commandFor(event, [search]) === undefined) return;
      if (document.querySelector('[role="dialog"]')) return;
      event.preventDefault();
      search.run();
    },
    { enableOnFormTags: ['input', 'textarea', 'select'], ignoreModifiers: true },
    [all],
  );
  return null;
}

const isTyping = (on: EventTarget | null): boolean => on instanceof Element && on.matches('input, textarea, select');
