/** Frames that are looked at together. */
const LOOK = 30;
/** Longest time to wait before every frame is tried again (ms). */
const LONGEST = 60_000;
const FIRST = 4_000;

/**
 * How often the page draws what moves: before every repaint, or, when the machine does not keep up, before every second
 * one. Sound and recording need the processor more than meters do. After a while every frame is tried again; each time
 * it does not hold, it is tried later.
 */
export class FramePace {
  /** Repaints per drawing. */
  every: 1 | 2 = 1;
  private last: number | null = null;
  private seen = 0;
  private began = 0;
  private shortest = Infinity;
  private again = FIRST;
  private slowSince = 0;

  /** Called at every drawing with its time (ms, as of `performance.now()`). */
  note(now: number): void {
    if (this.last === null) this.began = now;
    else this.shortest = Math.min(this.shortest, Math.max(1, now - this.last));
    this.last = now;
    if (++this.seen <= LOOK) return;
    const mean = (now - this.began) / LOOK;
    if (this.every === 1) this.mayStepBack(mean, now);
    else if (now - this.slowSince > this.again) this.every = 1;
    this.seen = 1;
    this.began = now;
    this.shortest = Infinity;
  }

  // The shortest of the times tells the screen's own: what is clearly longer on the average was held up.
  private mayStepBack(mean: number, now: number): void {
    const screen = Math.min(this.shortest, 17);
    if (mean <= screen * 1.3) {
      if (now - this.slowSince > LONGEST) this.again = FIRST;
      return;
    }
    if (this.slowSince > 0 && now - this.slowSince < this.again + 3_000) this.again = Math.min(LONGEST, this.again * 2);
    this.every = 2;
    this.slowSince = now;
  }

  /** Time passed of which nothing is known, as while the page was hidden. */
  forget(): void {
    this.last = null;
    this.seen = 0;
    this.shortest = Infinity;
  }
}
