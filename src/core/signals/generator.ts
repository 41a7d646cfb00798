/** Adds a test signal to a buffer, block after block. */
export interface Generator {
  run(buf: number, n: number): void;
  free(): void;
}
