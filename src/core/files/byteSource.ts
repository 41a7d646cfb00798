/**
 * A file that can be read anywhere. `read` returns fewer bytes at the end; given a buffer it may put them there
 * and return a part of it, so that memory is used again.
 */
export interface ByteSource {
  readonly size: number;
  read(offset: number, length: number, into?: Uint8Array): Promise<Uint8Array>;
}

/** A file that cannot be used; the message names the place and the fault. */
export class FileFault extends Error {}

/** A whole file in a form, or of samples, that are not read here; something else may read it. */
export class UnreadForm extends FileFault {}
