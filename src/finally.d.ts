/** What is asked for at the end may take its time: the promise waits for it (ECMA-262, Promise.prototype.finally). */
interface Promise<T> {
  finally(atTheEnd: () => PromiseLike<unknown>): Promise<T>;
}
