/** Beyond this the picture jumps instead of gliding (s). */
const JUMP = 0.12;
/** Nobody sees a picture run so much faster or slower. */
const MOST_SPEED = 0.06;
/** Speed per second of error, and per second of error that stays. */
const NOW = 1.2;
const STAYS = 0.6;

export type Follow = { rate: number } | { jump: true };

/**
 * Holds a picture to a clock: a controller with a proportional and an integral part on its speed. Each shown frame
 * says by how much it is early or late; the picture glides, and jumps only where it is far off.
 */
export class PictureFollower {
  private stayed = 0;
  private last: number | null = null;

  /** `error`: seconds by which the picture is late at `now` (s). */
  take(error: number, now: number): Follow {
    if (Math.abs(error) > JUMP) {
      this.reset();
      return { jump: true };
    }
    const since = this.last === null ? 0 : Math.min(0.2, Math.max(0, now - this.last));
    this.last = now;
    // What stays is not counted while the speed is at its end already.
    const wanted = NOW * error + STAYS * (this.stayed + error * since);
    if (Math.abs(wanted) < MOST_SPEED) this.stayed += error * since;
    return { rate: 1 + Math.max(-MOST_SPEED, Math.min(MOST_SPEED, wanted)) };
  }

  reset(): void {
    this.stayed = 0;
    this.last = null;
  }
}
