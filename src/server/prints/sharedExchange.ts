import { PRINT_SPAN, type NodeExchange, type PlanPart } from '@/core/print';

/** Spans that one may be ahead of the other: enough that a moment of either does not hold up both. */
const SLOTS = 4;
const [GIVEN, TAKEN, ENDED] = [0, 1, 2];
/** A waiting side looks this often whether it was cancelled. */
const LOOK_MS = 200;

/** Memory that two threads of a print share: the sound of some nodes, a few spans of it. */
export interface SharedRoom {
  control: SharedArrayBuffer;
  samples: SharedArrayBuffer;
  nodes: { id: string; channels: number }[];
}

export function roomFor(part: PlanPart): SharedRoom {
  const nodes = part.plan.nodes.filter((n) => part.gives.includes(n.id)).map(({ id, channels }) => ({ id, channels }));
  const channels = nodes.reduce((sum, n) => sum + n.channels, 0);
  return {
    control: new SharedArrayBuffer(12),
    samples: new SharedArrayBuffer(channels * SLOTS * PRINT_SPAN * 4),
    nodes,
  };
}

type WaitAsync = (
  array: Int32Array,
  index: number,
  value: number,
  timeout: number,
) => { async: boolean; value: Promise<string> | string };
const waitAsync = (Atomics as unknown as { waitAsync: WaitAsync }).waitAsync;

/** One side of a room. */
export class SharedExchange implements NodeExchange {
  readonly nodes: readonly string[];
  private readonly control: Int32Array;
  private readonly first = new Map<string, number>();

  constructor(
    private readonly room: SharedRoom,
    private readonly side: 'giver' | 'taker',
    private readonly signal?: AbortSignal,
  ) {
    this.control = new Int32Array(room.control);
    this.nodes = room.nodes.map((n) => n.id);
    let at = 0;
    for (const n of room.nodes) {
      this.first.set(n.id, at);
      at += n.channels;
    }
  }

  async ready(span: number): Promise<void> {
    const index = this.side === 'giver' ? TAKEN : GIVEN;
    const enough = this.side === 'giver' ? span - SLOTS + 1 : span + 1;
    for (;;) {
      this.signal?.throwIfAborted();
      const now = Atomics.load(this.control, index);
      // A giver that has ended may have left spans that are still to be read.
      if (now >= enough) return;
      if (Atomics.load(this.control, ENDED)) {
        if (Atomics.load(this.control, index) >= enough) return;
        throw new Error('another part of the print has stopped');
      }
      const wait = waitAsync(this.control, index, now, LOOK_MS);
      if (wait.async) await wait.value;
    }
  }

  samples(node: string, channel: number, span: number): Float32Array {
    const at = ((this.first.get(node)! + channel) * SLOTS + (span % SLOTS)) * PRINT_SPAN;
    return new Float32Array(this.room.samples, at * 4, PRINT_SPAN);
  }

  done(span: number): void {
    const index = this.side === 'giver' ? GIVEN : TAKEN;
    Atomics.store(this.control, index, span + 1);
    Atomics.notify(this.control, index);
  }

  /** Tells the other side that no more comes. */
  end(): void {
    Atomics.store(this.control, ENDED, 1);
    Atomics.notify(this.control, GIVEN);
    Atomics.notify(this.control, TAKEN);
  }
}
