import { onProofThread } from './proofThread';
import type { Verified } from './verify';

/** Proves an archive that somebody brings; nothing of it is kept. */
export const verifyUpload = (place: string): Promise<Verified[]> =>
  onProofThread<Verified[]>({ kind: 'verify', place });
