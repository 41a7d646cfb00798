import type { Live, LiveDevice } from '@/core/checks';
import { lineId } from '@/core/session';
import { deviceKey } from '../meterKeys';
import { networkFacts, type Devices, type DeviceState } from './devices';
import type { Disk } from './disk';
import type { InRoom } from './inRoom';
import type { Levels } from './levels';
import type { Listening } from './listening';
import type { Overs } from './overs';

const stateOf = (d: DeviceState): LiveDevice['state'] =>
  d.state === 'on' ? 'on' : d.unavailable === null ? 'off' : 'gone';

/** What is known of the world around the session, for the checks. */
export class Outside {
  constructor(
    private readonly devices: Devices,
    private readonly levels: Levels,
    private readonly listening: Listening,
    private readonly disk: Disk,
    private readonly overs: Overs,
    private readonly inRoom: Pick<InRoom, 'faults'>,
  ) {
    devices.state.subscribe((now, before) => {
      const open = new Set(now.list.map((d) => d.slot));
      for (const { slot } of before.list) if (slot >= 0 && !open.has(slot)) levels.forgetDevice(slot);
    });
  }

  /** What was passed by knowingly while this session is open. */
  private readonly passed = new Set<string>();

  /** Findings that are not asked about again. */
  pass(ids: readonly string[]): void {
    for (const id of ids) this.passed.add(id);
  }

  /** Levels of the open lines, networks, rates, and the server's disk. */
  live(): Live {
    const lines = new Map<string, number>();
    const spoken = new Set<string>();
    const on = this.devices.list.filter((d) => d.slot >= 0);
    for (const d of on)
      d.lines.forEach((_, channel) => {
        const key = deviceKey(d.slot, channel);
        lines.set(lineId(d.id, channel), this.levels.recent(key));
        if (this.levels.hasSpoken(key)) spoken.add(lineId(d.id, channel));
      });
    const devices = new Map(
      this.devices.list.map((d) => [d.id, { name: d.name, state: stateOf(d), simulated: d.kind === 'stand-in' }]),
    );
    const networks = on.flatMap((d) => (d.network ? [networkFacts(d, d.network)] : []));
    const rates = new Map(on.flatMap((d) => (d.sampleRate ? [[d.id, d.sampleRate] as const] : [])));
    const { diskFree, missing } = this.disk.state.getState();
    const { heard, swapped } = this.listening.state.getState();
    const { overs } = this.overs.state.getState();
    const room = this.inRoom.faults();
    return {
      ...{ lines, spoken, devices, passed: this.passed, heard, swapped, networks, rates, overs, missing },
      ...(diskFree === null ? {} : { diskFree }),
      ...(room ? { room } : {}),
    };
  }
}
