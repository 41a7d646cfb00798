/** How the network and clock of a device stand. */
export interface NetworkFacts {
  device: string;
  name: string;
  /** Whether each link carries the stream. */
  links: readonly boolean[];
  /** Whether the device runs on a clock of its own. */
  free: boolean;
  /** Parts per million by which its clock is fast; null while unknown. */
  ppm: number | null;
  /** Frames until its buffer is empty or full. */
  margin: number;
  /** Clicks so far. */
  slips: number;
  /** Lines that are silent because they are switched off at the device. */
  off: readonly string[];
}
