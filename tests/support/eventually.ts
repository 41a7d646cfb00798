import { vi } from 'vitest';

/** Waits until something holds, on a machine that may be busy with other tests as well. */
export const eventually = <T>(look: () => T | Promise<T>): Promise<T> =>
  vi.waitFor(look, { timeout: 120_000, interval: 20 });
