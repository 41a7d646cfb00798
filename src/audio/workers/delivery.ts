import { crcOf, PARTS, type Part, type TakeFiles } from './takeStore';

/** Bytes sent at a time when catching up. */
const MOST_BYTES = 1 << 20;
/** A request without an answer for so long is made anew (ms). */
const HANGS_AFTER = 15_000;
/** At the end the server reads the whole take once more. */
const FINISH_HANGS_AFTER = 180_000;

export class Undeliverable extends Error {}

async function ask<T>(
  url: string,
  init: RequestInit,
  hangsAfter = HANGS_AFTER,
): Promise<{ status: number; body: T & { message?: string; expected?: number } }> {
  // A request that hangs (a network that was cut) must not keep the take waiting for ever.
  const response = await fetch(url, { ...init, signal: AbortSignal.timeout(hangsAfter) });
  // An answer that a dying server cut off tells nothing: it must not be taken for one.
  const body = (await response.json().catch(() => {
    throw new Error('the answer was cut off');
  })) as T & { message?: string; expected?: number };
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
    const { session, id, track, start, block, format, chains, keepDry, purpose } = this.files.journal;
    const { body } = await ask<{
      take: number;
      file: string;
      state?: string;
      received: Record<Part, number>;
    }>(`/api/sessions/${session}/recordings`, send({ id, track, start, block, format, chains, keepDry, purpose }));
    // What is finished on the server needs nothing more, whatever it kept.
    this.sent =
      body.state === 'finished'
        ? { processed: this.files.size('processed'), dry: this.files.size('dry') }
        : body.received;
    this.begun = true;
    return body;
  }

  /** Sends what is there at the call, whole frames only, the parts by turns: neither waits for the other to end. */
  async push(): Promise<void> {
    if (!this.begun) await this.begin();
    const { block } = this.files.journal;
    const ends = PARTS.map((part) => this.files.size(part) - (this.files.size(part) % block));
    const most = MOST_BYTES - (MOST_BYTES % block);
    for (let open = true; open;) {
      open = false;
      for (const [p, part] of PARTS.entries()) {
        const left = ends[p]! - this.sent[part];
        if (left <= 0) continue;
        await this.sendChunk(part, Math.min(left, most));
        open = true;
      }
    }
  }

  private async sendChunk(part: Part, length: number): Promise<void> {
    const bytes = this.files.read(part, this.sent[part], length);
    const url = `/api/recordings/${this.files.journal.id}/chunks/${part}?offset=${this.sent[part]}&crc=${crcOf(bytes)}`;
    const { status, body } = await ask<{ received: number }>(url, { method: 'PUT', body: bytes });
    // The server may have less than was sent when it was cut off: go on from what it has.
    const next = status === 409 ? (body.expected ?? 0) : body.received;
    if (!Number.isSafeInteger(next)) throw new Error('the answer does not say what was received');
    if (next === this.sent[part]) throw new Error(body.message ?? 'the server takes no more of this take');
    this.sent[part] = next;
  }

  /** Everything is there: the server compares its files with what was recorded, and enters the take. */
  async finish(frames: number): Promise<{ faults: string[] }> {
    const { id, block, facts, shownEnd } = this.files.journal;
    const sums = Object.fromEntries(PARTS.map((part) => [part, this.files.sum(part, frames * block)]));
    for (let tries = 0; tries < 3; tries++) {
      await this.push();
      const { status, body } = await ask<{ expected?: number; faults?: string[] }>(
        `/api/recordings/${id}/finish`,
        send({ frames, shownEnd, facts, sums, last: tries === 2 }),
        FINISH_HANGS_AFTER,
      );
      if (status !== 409) return { faults: body.faults ?? [] };
      this.sent = {
        processed: Math.min(this.sent.processed, body.expected ?? 0),
        dry: Math.min(this.sent.dry, body.expected ?? 0),
      };
    }
    throw new Error('the server keeps asking for samples that were sent');
  }
}
