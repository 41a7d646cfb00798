/** Frames handed over at a time: not so often that messages pile up, not so seldom that figures lag. */
const PORTION = 4800;

/** Gathers what arrives on the lines of one input into portions. */
export class Ear {
  private parts: Float32Array[] = [];
  private at = 0;

  constructor(readonly slot: number) {}

  /** A full portion of every channel, or undefined while it fills. */
  run(inputs: Float32Array[][]): Float32Array[] | undefined {
    const channels = inputs[this.slot] ?? [];
    const n = channels[0]?.length ?? 0;
    if (n === 0) return undefined;
    if (this.parts.length !== channels.length) {
      this.parts = channels.map(() => new Float32Array(PORTION + n));
      this.at = 0;
    }
    channels.forEach((samples, c) => this.parts[c]!.set(samples, this.at));
    this.at += n;
    if (this.at < PORTION) return undefined;
    const full = this.parts.map((p) => p.slice(0, this.at));
    this.at = 0;
    return full;
  }
}
