/** One value per process, however many bundles load this file. */
export function shared<T>(name: string, make: () => T): T {
  const key = Symbol.for(`wide-room/${name}`);
  const holder = globalThis as unknown as Record<symbol, T | undefined>;
  return (holder[key] ??= make());
}
