/** Linear; more than this arrives over full scale. */
export const OVER = 1;

/** What went over before the chain of a bus: how often, how far, and where it was farthest. */
export interface Over {
  count: number;
  /** Highest level, dBFS. */
  db: number;
  /** Sample of the timeline. */
  at: number;
}
