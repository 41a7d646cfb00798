import { PARTS, type Part, type TakeFiles } from './takeStore';

/** Bytes sent at a time when catching up. */
const MOST_BYTES = 1 << 20;

export class Undeliverable extends Error {}

async function ask<T>(
  url: string,
  init: RequestInit,
): Promise<{ status: number; body: T & { message?: string; expected?: number } }> {
  const response = await fetch(url, init);
  const body = (await response.json().catch(() => ({}))) as T & { message?: string; expected?: number };
  if (response.status === 404 || response.status === 422)
    throw new Undeliverable(body.message ?? `status ${response.status}`);
  if (!response.ok && response.status !== 409) throw new Error(body.message ?? `status ${response.status}`);
  return { status: response.status, body };
}

const send = (value: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(value),
});

/** Brings one take to the server, from wherever the server already is. Throws while the server is away. */
export class Delivery {
  private sent: Record<Part, number> = { processed: 0, dry: 0 };
  private begun = false;

  constructor(private readonly files: TakeFiles) {}

  get delivered(): number {
    return Math.min(this.sent.processed, this.sent.dry) / this.files.journal.block;
  }

  async begin(): Promise<{ take: number; file: string }> {
    const { session, id, track, start, chains } = this.files.journal;
    const { body } = await ask<{ take: number; file: string; received: Record<Part, number> }>(
      `/api/sessions/${session}/recordings`,
      send({ id, track, start, chains }),
    );
    this.sent = body.received;
    this.begun = true;
    return body;
  }

  /** Sends what is new, whole frames only. */
  async push(): Promise<void> {
    if (!this.begun) await this.begin();
    for (const part of PARTS) {
      const most = MOST_BYTES - (MOST_BYTES % this.files.journal.block);
      for (;;) {
        const bytes = this.files.read(part, this.sent[part], most);
        const whole = bytes.length - (bytes.length % this.files.journal.block);
        if (whole === 0) break;
        const url = `/api/recordings/${this.files.journal.id}/chunks/${part}?offset=${this.sent[part]}`;
        const { status, body } = await ask<{ received: number }>(url, {
          method: 'PUT',
          body: bytes.subarray(0, whole),
        });
        // The server may have less than was sent when it was cut off: go on from what it has.
        this.sent[part] = status === 409 ? (body.expected ?? 0) : body.received;
      }
    }
  }

  async finish(frames: number): Promise<void> {
    for (let tries = 0; tries < 3; tries++) {
      await this.push();
      const { status, body } = await ask<{ expected?: number }>(
        `/api/recordings/${this.files.journal.id}/finish`,
        send({ frames }),
      );
      if (status !== 409) return;
      this.sent = {
        processed: Math.min(this.sent.processed, body.expected ?? 0),
        dry: Math.min(this.sent.dry, body.expected ?? 0),
      };
    }
    throw new Error('the server keeps asking for samples that were sent');
  }
}
