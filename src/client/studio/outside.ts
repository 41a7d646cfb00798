import type { Live } from '@/core/checks';
import { lineId } from '@/core/session';
import { networkFacts, type Devices } from './devices';
import type { Disk } from './disk';
import type { InRoom } from './inRoom';
import type { Levels } from './levels';
import type { Listening } from './listening';
import type { Overs } from './overs';

/** What is known of the world around the session, for the checks. */
export class Outside {
  constructor(
    private readonly devices: Devices,
    private readonly levels: Levels,
    private readonly listening: Listening,
    private readonly disk: Disk,
    private readonly overs: Overs,
    private readonly inRoom: Pick<InRoom, 'faults'>,
  ) {}

  /** Levels of the open lines, networks, rates, and the server's disk. */
  live(): Live {
    const lines = new Map<string, number>();
    const on = this.devices.list.filter((d) => d.slot >= 0);
    for (const d of on)
      d.lines.forEach((_, channel) =>
        lines.set(lineId(d.id, channel), this.levels.recent(`device/${d.slot}/${channel}`)),
      );
    const networks = on.flatMap((d) => (d.network ? [networkFacts(d, d.network)] : []));
    const rates = new Map(on.flatMap((d) => (d.sampleRate ? [[d.id, d.sampleRate] as const] : [])));
    const { diskFree, missing } = this.disk.state.getState();
    const { heard, swapped } = this.listening.state.getState();
    const { overs } = this.overs.state.getState();
    const room = this.inRoom.faults();
    return {
      ...{ lines, heard, swapped, networks, rates, overs, missing },
      ...(diskFree === null ? {} : { diskFree }),
      ...(room ? { room } : {}),
    };
  }
}
