import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { controlId, faderLevel, readMidi, type ControlEvent } from '@/core/control';
import { useCommands } from './commands';
import { useSelection } from './selection';
import { edit, preview, useSession } from './session';
import { rideMove, rideRelease } from './studio';

/** What a key can do: any command by its id. */
export const CONTROLS: readonly { id: string; label: string; kind: ControlEvent['kind'] }[] = [
  { id: 'roll', label: 'Play or stop', kind: 'key' },
  { id: 'record', label: 'Record', kind: 'key' },
  { id: 'arm', label: 'Arm the selected track', kind: 'key' },
  { id: 'cue-next', label: 'Next cue', kind: 'key' },
  { id: 'circle', label: 'Circle the take', kind: 'key' },
  { id: 'back', label: 'Back from a mistake', kind: 'key' },
  { id: 'level', label: 'Level of the selected track', kind: 'fader' },
];

/** The stand-in's keys are notes from 36 up, its fader is controller 7. */
const STANDIN: Record<string, string> = Object.fromEntries(
  CONTROLS.map((c, i) => [c.id, controlId({ kind: c.kind, channel: 1, number: c.kind === 'key' ? 36 + i : 7 })]),
);

interface Controller {
  /** Which key or fader does what. */
  map: Record<string, string>;
  /** Waits for a key or fader to be moved for this. */
  learning: string | null;
  inputs: string[];
  trouble: string | null;
}

export const useController = create<Controller>()(
  persist<Controller, [], [], Pick<Controller, 'map'>>(
    () => ({ map: STANDIN, learning: null, inputs: [], trouble: null }),
    {
      name: 'wide-room-controller',
      partialize: ({ map }) => ({ map }),
      skipHydration: true,
    },
  ),
);
if (typeof window !== 'undefined') void useController.persist.rehydrate();

export const learn = (learning: string | null): void => void useController.setState({ learning });

/** A message from a controller, real or simulated. */
export function takeMidi(bytes: ArrayLike<number>): void {
  const event = readMidi(bytes);
  if (!event) return;
  const { learning, map } = useController.getState();
  const wanted = CONTROLS.find((c) => c.id === learning);
  if (wanted) {
    if (event.kind !== wanted.kind || (event.kind === 'key' && event.value === 0)) return;
    // A key does one thing.
    const rest = Object.fromEntries(Object.entries(map).filter(([, id]) => id !== controlId(event)));
    useController.setState({ learning: null, map: { ...rest, [wanted.id]: controlId(event) } });
    return;
  }
  const action = Object.entries(map).find(([, id]) => id === controlId(event))?.[0];
  if (!action) return;
  if (action === 'level') moveLevel(event.value);
  else if (event.value > 0) run(action);
}

function run(id: string): void {
  Object.values(useCommands.getState().sets)
    .flat()
    .find((c) => c.id === id)
    ?.run();
}

let settling: ReturnType<typeof setTimeout> | undefined;

// A fader sends many values: they are heard at once and stored when it rests.
function moveLevel(value: number): void {
  const { selected } = useSelection.getState();
  const track = useSession.getState().doc?.tracks.find((t) => selected?.kind === 'track' && t.id === selected.id);
  if (!track) return;
  const level = Math.round(faderLevel(value) * 10) / 10;
  const target = { node: track.id, param: 'level' };
  // A fader tells where it is, not that it was let go: it rests.
  if (rideMove(target, level)) {
    clearTimeout(settling);
    settling = setTimeout(() => rideRelease(target), 250);
    return;
  }
  const change = { type: 'setTrack', track: track.id, level } as const;
  preview(change);
  clearTimeout(settling);
  settling = setTimeout(() => edit(change), 250);
}

/** Listens to the controllers of this computer. */
export async function openControllers(): Promise<void> {
  try {
    const access = await navigator.requestMIDIAccess();
    const follow = () => {
      const inputs = [...access.inputs.values()];
      for (const input of inputs)
        input.onmidimessage = ({ data }) => {
          if (data) takeMidi(data);
        };
      useController.setState({ inputs: inputs.map((i) => i.name ?? 'Controller'), trouble: null });
    };
    access.onstatechange = follow;
    follow();
  } catch (error) {
    useController.setState({ trouble: `The browser gives no access to controllers (${(error as Error).message}).` });
  }
}
