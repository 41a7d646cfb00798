import { toast } from 'sonner';
import { create } from 'zustand';
import { browserInputs, standinDevices, type DeviceFacts, type InputDevice } from '@/audio';
import { ensurePlayer, listeners, playerNow, reload } from './engine';
import type { NetworkFacts } from '@/core/checks';
import { lineId } from '@/core/session';
import { DIRECT, type NetworkStatus, type ToConsole } from '@/standins';
import { useSession } from './session';

export interface DeviceState extends DeviceFacts {
  state: 'off' | 'starting' | 'on';
  slot: number;
  channels: number;
  sampleRate: number | null;
  trouble: string | null;
  /** How its network stands, for networked devices that are on. */
  network: NetworkStatus | null;
}

interface Devices {
  list: DeviceState[];
  /** The one whose lines are shown. */
  shown: string;
}

const known = new Map<string, InputDevice>();
const asState = ({ facts }: InputDevice): DeviceState => ({
  ...facts,
  state: 'off',
  slot: -1,
  channels: facts.lines.length,
  sampleRate: null,
  trouble: null,
  network: null,
});

export const useDevices = create<Devices>(() => {
  const standins = standinDevices();
  standins.forEach((d) => known.set(d.facts.id, d));
  return { list: standins.map(asState), shown: 'standin-eight' };
});

// Sound was started anew: nothing is open any more.
listeners.dropped.add(() =>
  useDevices.setState((s) => ({ list: s.list.map((d) => ({ ...d, state: 'off' as const, slot: -1, network: null })) })),
);

const patch = (id: string, part: Partial<DeviceState>) =>
  useDevices.setState((s) => ({ list: s.list.map((d) => (d.id === id ? { ...d, ...part } : d)) }));

export const showDevice = (shown: string): void => useDevices.setState({ shown });

/** Looks again which inputs the browser has; called when one is plugged in or taken away. */
export async function refreshDevices(): Promise<void> {
  const found = await browserInputs();
  found.forEach((d) => known.set(d.facts.id, d));
  useDevices.setState((s) => {
    const there = s.list.filter((d) => d.kind === 'stand-in' || found.some((f) => f.facts.id === d.id));
    const fresh = found.filter((f) => !there.some((d) => d.id === f.facts.id)).map(asState);
    return { list: [...there, ...fresh] };
  });
  for (const d of found) if (!d.facts.unavailable && missed.has(d.facts.id)) await comeBack(d.facts.id);
}

/** Asks for the microphone, so that the browser tells its inputs' names. */
export async function allowInputs(): Promise<void> {
  try {
    const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
    stream.getTracks().forEach((t) => t.stop());
    await refreshDevices();
  } catch (error) {
    toast.error(
      `The browser gives no input (${(error as Error).name}). Allow the microphone in the address bar, or use a stand-in.`,
    );
  }
}

/** Devices that went away while they were on: they are switched on again when they are back. */
const missed = new Set<string>();

async function vanished(id: string): Promise<void> {
  const device = useDevices.getState().list.find((d) => d.id === id);
  (await ensurePlayer()).close(id);
  missed.add(id);
  patch(id, {
    state: 'off',
    slot: -1,
    network: null,
    trouble: 'It went away; plug it in again.',
    unavailable: 'unplugged',
  });
  listeners.vanished.forEach((l) => l(id, device?.name ?? id));
  reload();
}

/** Pulls the plug of a stand-in, or puts it in again. */
export async function plug(id: string, into: boolean): Promise<void> {
  if (!into) return (await ensurePlayer()).unplug(id);
  patch(id, { trouble: null, unavailable: null });
  await comeBack(id);
}

async function comeBack(id: string): Promise<void> {
  if (!missed.delete(id)) return;
  await switchOn(id);
  const device = useDevices.getState().list.find((d) => d.id === id);
  if (device?.state === 'on') toast.success(`${device.name} is back and on; its patches are as they were.`);
}

export async function switchOn(id: string): Promise<void> {
  const device = known.get(id);
  if (!device) return;
  patch(id, { state: 'starting', trouble: null });
  try {
    const player = await ensurePlayer();
    const open = await player.open(device, {
      gone: () => void vanished(id),
      network: (network) => patch(id, { network }),
    });
    patch(id, { state: 'on', slot: player.slotOf(id), channels: open.channels, sampleRate: open.sampleRate });
    setLines(id);
    reload();
  } catch (error) {
    patch(id, { state: 'off', trouble: (error as Error).message });
    toast.error(`${device.facts.name} could not be switched on: ${(error as Error).message}`);
  }
}

/** Devices that can be set follow the line sheet, from here or from another window. */
function setLines(device: string): void {
  const player = playerNow();
  for (const line of useSession.getState().doc?.lines ?? [])
    if (line.device === device) player?.setLine(device, line.channel, line.sheet);
}

useSession.subscribe((state, before) => {
  if (state.doc?.lines === before.doc?.lines) return;
  for (const d of useDevices.getState().list) if (d.settable && d.state === 'on') setLines(d.id);
});

export async function switchOff(id: string): Promise<void> {
  (await ensurePlayer()).close(id);
  patch(id, { state: 'off', slot: -1, network: null });
  reload();
}

/** Sets a simulated console and its network; nothing happens while it is off. */
export const tellConsole = (id: string, message: ToConsole): void => playerNow()?.tellConsole(id, message);

/** A device's network in the words of the checks. */
export const networkFacts = (device: DeviceState, status: NetworkStatus): NetworkFacts => ({
  device: device.id,
  name: device.name,
  links: status.links.map((l) => l.up),
  free: status.clock === 'own',
  ppm: status.ppm,
  margin: status.margin,
  slips: status.slips,
  off: status.direct ? [] : [lineId(device.id, DIRECT)],
});
