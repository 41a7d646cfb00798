/** The latest samples of several channels: what was, before one knew that it was wanted. */
export class LookBack {
  private readonly kept: Float32Array[];
  private at = 0;
  /** Frames that are there. */
  frames = 0;

  constructor(
    channels: number,
    readonly most: number,
  ) {
    this.kept = Array.from({ length: channels }, () => new Float32Array(most));
  }

  /** Copies the next frames of a channel in; of more than it holds, the last ones. */
  put(channel: number, samples: Float32Array): void {
    const fresh = samples.length > this.most ? samples.subarray(samples.length - this.most) : samples;
    const first = Math.min(fresh.length, this.most - this.at);
    const kept = this.kept[channel]!;
    kept.set(fresh.subarray(0, first), this.at);
    if (first < fresh.length) kept.set(fresh.subarray(first), 0);
  }

  /** `n` frames of every channel were put in. */
  wrote(n: number): void {
    this.at = (this.at + Math.min(n, this.most)) % this.most;
    this.frames = Math.min(this.most, this.frames + n);
  }

  /** The kept frames of a channel, oldest first. */
  read(c: number): Float32Array {
    const out = new Float32Array(this.frames);
    const from = (this.at - this.frames + this.most) % this.most;
    const first = Math.min(this.frames, this.most - from);
    out.set(this.kept[c]!.subarray(from, from + first));
    out.set(this.kept[c]!.subarray(0, this.frames - first), first);
    return out;
  }
}
