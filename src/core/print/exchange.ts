/** Passes the sound of nodes from one part of a print to another, span by span. */
export interface NodeExchange {
  readonly nodes: readonly string[];
  /** Waits until a span may be written (giver) or read (taker). Throws when the other side has ended. */
  ready(span: number): Promise<void>;
  /** Samples of a channel of a node in that span. */
  samples(node: string, channel: number, span: number): Float32Array;
  /** The span has been written (giver) or read (taker). */
  done(span: number): void;
}
