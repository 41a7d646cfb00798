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

  /** Takes `n` frames; `channel` gives each channel's. */
  write(n: number, channel: (c: number) => Float32Array): void {
    const skip = Math.max(0, n - this.most);
    const first = Math.min(n - skip, this.most - this.at);
    this.kept.forEach((kept, c) => {
      const fresh = channel(c).subarray(skip, n);
      kept.set(fresh.subarray(0, first), this.at);
      kept.set(fresh.subarray(first), 0);
    });
    this.at = (this.at + n - skip) % this.most;
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
