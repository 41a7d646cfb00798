'use client';
import { monitorOf } from '@/core/session';
import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import {
  edit,
  foldInspector,
  isPressed,
  locate,
  offer,
  record,
  toggle,
  toggleScheme,
  travel,
  useCommands,
  useSelection,
  useSession,
  type Command,
  hearAs,
  useInRoom,
} from '@/client';
import { goTo } from './placeLink';
import { PLACES } from './places';

const doc = () => useSession.getState().doc;

function selectedTrack(): string | null {
  const { selected } = useSelection.getState();
  return selected?.kind === 'track' ? selected.id : null;
}

/** What works in every place. */
export function GlobalKeys({ session }: { session: string }) {
  useEffect(() => {
    const commands: Command[] = [
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
      { id: 'arm', label: 'Arm the selected track', keys: 'a', group: 'Track', run: () => toggleTrack('armed') },
      {
        id: 'mute-track',
        label: 'Mute the selected track',
        keys: 'm',
        group: 'Track',
        run: () => toggleTrack('muted'),
      },
      {
        id: 'solo-track',
        label: 'Solo the selected track',
        keys: 's',
        group: 'Track',
        run: () => toggleTrack('soloed'),
      },
      ...PLACES.map((p) => ({
        id: `go-${p.id}`,
        label: `Go to ${p.name}`,
        keys: p.key,
        group: 'Places',
        run: () => goTo(session, p.id),
      })),
    ];
    return offer('everywhere', commands);
  }, [session]);
  return <BindKeys />;
}

function monoCheck(): void {
  const { heardAs } = useInRoom.getState();
  hearAs(heardAs?.as === 'layout' && heardAs.layout === 'mono' ? null : { as: 'layout', layout: 'mono' });
}

function toggleTrack(what: 'armed' | 'muted' | 'soloed'): void {
  const track = doc()?.tracks.find((t) => t.id === selectedTrack());
  if (!track) return;
  if (what === 'muted') edit({ type: 'setTrack', track: track.id, muted: !track.muted });
  else edit({ type: 'seatTrack', track: track.id, [what]: !track[what] });
}

/**
 * Whether the control that a key was pressed on answers to it itself: Space presses it (but a link, which is followed by
 * Enter), arrows move it, digits are typed into it.
 */
function ownKey(on: EventTarget | null, e: KeyboardEvent): boolean {
  if (!(on instanceof Element) || on === document.body) return false;
  if (e.key === ' ') return on.matches('[role="switch"], [role="radio"], [role="option"], [role="menuitem"]');
  if (/^(Arrow|Home|End|Page)/.test(e.key)) return on.matches('[role="radio"], [role="slider"], [role="spinbutton"]');
  return /^[-−+.,\d]$|^Enter$/.test(e.key) && on.matches('[role="spinbutton"]');
}

function BindKeys() {
  const sets = useCommands((s) => s.sets);
  const all = Object.values(sets)
    .flat()
    .filter((c) => c.keys);
  useHotkeys(
    '*',
    (event) => {
      // A figure that takes a digit has become a field by now: what counts is where the key was pressed.
      if (ownKey(event.target, event)) return;
      const command = all.find((c) => isPressed(c.keys, event));
      if (!command || document.querySelector('[role="dialog"]')) return;
      event.preventDefault();
      command.run();
    },
    // A control that was clicked keeps the focus: the record key must work all the same.
    { enableOnFormTags: ['radio', 'slider', 'spinbutton'], ignoreModifiers: true },
    [all],
  );
  return null;
}
