import mitt from 'mitt';
import { toast } from 'sonner';
import { createStore } from 'zustand/vanilla';
import { browserInputs, standinDevices, type DeviceFacts, type InputDevice } from '@/audio';
import type { DeviceAct, NetworkFacts } from '@/core/checks';
import { lineId } from '@/core/session';
import { DIRECT, type NetworkStatus, type ToConsole } from '@/standins';
import type { SessionAccess } from './access';
import type { Engine } from './engine';

export interface DeviceState extends DeviceFacts {
  state: 'off' | 'starting' | 'on';
  slot: number;
  channels: number;
  sampleRate: number | null;
  trouble: string | null;
  /** How its network stands, for networked devices that are on. */
  network: NetworkStatus | null;
}

interface DeviceList {
  list: DeviceState[];
  /** The one whose lines are shown. */
  shown: string;
}

const asState = ({ facts }: InputDevice): DeviceState => ({
  ...facts,
  state: 'off',
  slot: -1,
  channels: facts.lines.length,
  sampleRate: null,
  trouble: null,
  network: null,
});

/** The inputs of this computer and the stand-ins: which there are, which are on, and how they stand. */
export class Devices {
  readonly state;
  readonly events = mitt<{ vanished: { device: string; name: string } }>();
  private readonly known = new Map<string, InputDevice>();
  /** Devices that went away while they were on: they are switched on again when they are back. */
  private readonly missed = new Set<string>();
  private readonly leave: () => void;

  constructor(
    private readonly session: SessionAccess,
    private readonly engine: Engine,
    standins: InputDevice[] = standinDevices(),
  ) {
    standins.forEach((d) => this.known.set(d.facts.id, d));
    this.state = createStore<DeviceList>(() => ({ list: standins.map(asState), shown: 'standin-eight' }));
    // Sound was started anew: nothing is open any more.
    engine.events.on('dropped', () =>
      this.state.setState((s) => ({
        list: s.list.map((d) => ({ ...d, state: 'off' as const, slot: -1, network: null })),
      })),
    );
    this.leave = session.subscribe((now, before) => {
      if (now.doc?.lines === before.doc?.lines) return;
      for (const d of this.list) if (d.settable && d.state === 'on') this.setLines(d.id);
    });
  }

  get list(): readonly DeviceState[] {
    return this.state.getState().list;
  }

  find(id: string): DeviceState | undefined {
    return this.list.find((d) => d.id === id);
  }

  private patch(id: string, part: Partial<DeviceState>): void {
    this.state.setState((s) => ({ list: s.list.map((d) => (d.id === id ? { ...d, ...part } : d)) }));
  }

  show(shown: string): void {
    this.state.setState({ shown });
  }

  /** Looks again which inputs the browser has; called when one is plugged in or taken away. */
  async refresh(): Promise<void> {
    const found = await browserInputs();
    found.forEach((d) => this.known.set(d.facts.id, d));
    this.state.setState((s) => {
      const there = s.list.filter((d) => d.kind === 'stand-in' || found.some((f) => f.facts.id === d.id));
      const fresh = found.filter((f) => !there.some((d) => d.id === f.facts.id)).map(asState);
      return { list: [...there, ...fresh] };
    });
    for (const d of found) if (!d.facts.unavailable && this.missed.has(d.facts.id)) await this.comeBack(d.facts.id);
  }

  /** Asks for the microphone, so that the browser tells its inputs' names. */
  async allowInputs(): Promise<void> {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
      stream.getTracks().forEach((t) => t.stop());
      await this.refresh();
    } catch (error) {
      toast.error(
        `The browser gives no input (${(error as Error).name}). Allow the microphone in the address bar, or use a stand-in.`,
      );
    }
  }

  private async vanish(id: string): Promise<void> {
    const device = this.find(id);
    (await this.engine.sound()).close(id);
    this.missed.add(id);
    this.patch(id, {
      state: 'off',
      slot: -1,
      network: null,
      trouble: 'It went away; plug it in again.',
      unavailable: 'unplugged',
    });
    this.events.emit('vanished', { device: id, name: device?.name ?? id });
    this.engine.reload();
  }

  /** Pulls the plug of a stand-in, or puts it in again. */
  async plug(id: string, into: boolean): Promise<void> {
    if (!into) return (await this.engine.sound()).unplug(id);
    this.patch(id, { trouble: null, unavailable: null });
    await this.comeBack(id);
  }

  private async comeBack(id: string): Promise<void> {
    if (!this.missed.delete(id)) return;
    await this.switchOn(id);
    const device = this.find(id);
    if (device?.state === 'on') toast.success(`${device.name} is back and on; its patches are as they were.`);
  }

  async switchOn(id: string): Promise<void> {
    const device = this.known.get(id);
    if (!device) return;
    this.patch(id, { state: 'starting', trouble: null });
    try {
      const player = await this.engine.sound();
      const open = await player.open(device, {
        gone: () => void this.vanish(id),
        network: (network) => this.patch(id, { network }),
      });
      this.patch(id, { state: 'on', slot: player.slotOf(id), channels: open.channels, sampleRate: open.sampleRate });
      this.setLines(id);
      this.engine.reload();
    } catch (error) {
      this.patch(id, { state: 'off', trouble: (error as Error).message });
      toast.error(`${device.facts.name} could not be switched on: ${(error as Error).message}`);
    }
  }

  async switchOff(id: string): Promise<void> {
    (await this.engine.sound()).close(id);
    this.patch(id, { state: 'off', slot: -1, network: null });
    this.engine.reload();
  }

  /** Devices that can be set follow the line sheet, from here or from another window. */
  private setLines(device: string): void {
    for (const line of this.session.getState().doc?.lines ?? [])
      if (line.device === device) this.engine.player?.setLine(device, line.channel, line.sheet);
  }

  /** Does at a device what mends a finding. */
  async mend({ device, what }: DeviceAct): Promise<void> {
    if (what === 'switch-on') await this.switchOn(device);
    else if (what === 'plug-in') await this.plug(device, true);
    else if (what === 'follow-clock') this.tellConsole(device, { clock: 'network' });
    else if (what === 'feed-on') this.tellConsole(device, { direct: true });
    else [0, 1].forEach((link) => this.tellConsole(device, { link, up: true }));
  }

  /** Sets a simulated console and its network; nothing happens while it is off. */
  tellConsole(id: string, message: ToConsole): void {
    this.engine.player?.tellConsole(id, message);
  }

  close(): void {
    this.leave();
  }
}

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
