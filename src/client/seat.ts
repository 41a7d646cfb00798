import { toast } from 'sonner';
import type { EditJson, Seat } from '@/core/session';
import { ask, ServerRefusal } from './http';

/** Edits of one's own seat on their way to the server, in order; they are tried again while it is away. */
export class SeatSender {
  private waiting: EditJson[][] = [];
  private sending = false;

  /** `take`: the seat as the server has it, once nothing is on its way. */
  constructor(
    private readonly session: string,
    private readonly take: (state: Seat) => void,
  ) {}

  get busy(): boolean {
    return this.waiting.length > 0;
  }

  /** What is not known to be with the server yet. */
  get pending(): EditJson[] {
    return this.waiting.flat();
  }

  send(edits: EditJson[]): void {
    this.waiting.push(edits);
    if (!this.sending) void this.run();
  }

  private async run(): Promise<void> {
    this.sending = true;
    while (this.waiting[0]) {
      try {
        const { state } = await ask<{ state: Seat }>(`/api/sessions/${this.session}/seat`, { edits: this.waiting[0] });
        this.waiting.shift();
        if (!this.busy) this.take(state);
      } catch (error) {
        if (error instanceof ServerRefusal) {
          this.waiting.shift();
          toast.error(error.message, { id: 'seat' });
        } else await new Promise((resolve) => setTimeout(resolve, 1500));
      }
    }
    this.sending = false;
  }
}
