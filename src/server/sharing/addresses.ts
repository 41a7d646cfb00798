import { networkInterfaces } from 'node:os';

/** Addresses of this machine that others in its network may know it by. */
export const addresses = (): string[] =>
  Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter((a) => a.family === 'IPv4' && !a.internal)
    .map((a) => a.address);
