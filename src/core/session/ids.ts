/** What ids are made of: they stand in addresses, in file names and as keys of dictionaries. */
const FORM = /^[\w./:~-]{1,80}$/;

/** Names that every plain object answers to (`constructor`, `__proto__`): as a key they would be found where nothing is. */
const ofEveryObject = (name: string): boolean => name in Object.prototype;

/** Whether a text may be an id in a session document. */
export const isId = (value: unknown): value is string =>
  typeof value === 'string' && FORM.test(value) && !ofEveryObject(value);

/** Whether a text may name a row or a folder of the server: an id without anything that a path would follow. */
export const isPlainId = (value: unknown): value is string =>
  typeof value === 'string' && /^[A-Za-z0-9_-]{1,40}$/.test(value) && !ofEveryObject(value);

/** What stands under a key that came from outside; never what every object inherits. */
export const entryOf = <T>(record: Readonly<Record<string, T>>, key: string): T | undefined =>
  Object.hasOwn(record, key) ? record[key] : undefined;
