'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import {
  edit,
  foldInspector,
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
} from '@/client';
import { PLACES } from './places';

const doc = () => useSession.getState().doc;

function selectedTrack(): string | null {
  const { selected } = useSelection.getState();
  return selected?.kind === 'track' ? selected.id : null;
}

/** What works in every place. */
export function GlobalKeys({ session }: { session: string }) {
  const router = useRouter();
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
        run: () => edit({ type: 'setMonitor', dimmed: !doc()!.monitor.dimmed }),
      },
      {
        id: 'mute',
        label: 'Mute the monitor',
        keys: 'shift+d',
        group: 'Roll',
        run: () => edit({ type: 'setMonitor', muted: !doc()!.monitor.muted }),
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
        keys: 'shift+slash',
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
        run: () => router.push(`/s/${session}/${p.id}`),
      })),
    ];
    return offer('everywhere', commands);
  }, [router, session]);
  return <BindKeys />;
}

function toggleTrack(what: 'armed' | 'muted' | 'soloed'): void {
  const track = doc()?.tracks.find((t) => t.id === selectedTrack());
  if (track) edit({ type: 'setTrack', track: track.id, [what]: !track[what] });
}

/**
 * Whether a focused control answers to a key itself: Space presses it (but a link, which is followed by Enter), arrows
 * move it, digits are typed into it.
 */
function ownKey(on: Element | null, code: string): boolean {
  if (!on || on === document.body) return false;
  if (code === 'Space') return on.matches('[role="switch"], [role="radio"], [role="option"], [role="menuitem"]');
  if (/^(Arrow|Home|End|Page)/.test(code)) return on.matches('[role="radio"], [role="slider"], [role="spinbutton"]');
  return /^(Digit|Numpad|Minus|Period|Comma)/.test(code) && on.matches('[role="spinbutton"]');
}

function BindKeys() {
  const sets = useCommands((s) => s.sets);
  const all = Object.values(sets)
    .flat()
    .filter((c) => c.keys);
  const key = all.map((c) => c.keys).join(', ');
  useHotkeys(
    key || 'f24',
    (event, hotkey) => {
      if (ownKey(document.activeElement, event.code)) return;
      const pressed = hotkey.hotkey;
      const command = all.find((c) => c.keys === pressed);
      if (!command || document.querySelector('[role="dialog"]')) return;
      event.preventDefault();
      command.run();
    },
    // A control that was clicked keeps the focus: the record key must work all the same.
    { enableOnFormTags: ['radio', 'slider', 'spinbutton'], useKey: false },
    [all],
  );
  return null;
}
