import { random as xorshift } from '../../demo/sounds/random';

/** Random numbers in [0, 1): the same in every run; a failing one is named by its number. */
export const random = (seed: number): (() => number) => xorshift((seed * 0x9e3779b9) >>> 0);

const NASTY = [0, 1, 0x7f, 0x80, 0xff];

/** Bytes that were good, with a few faults: most of them at the head and at the end. */
export function mutate(good: Uint8Array, next: () => number): Uint8Array {
  const at = (n: number) => Math.floor(next() * n);
  let bytes = good.slice();
  // What matters stands at the head and behind the samples; most of the reserved space in between is empty.
  const place = () => {
    const head = Math.min(bytes.length, 1500);
    return next() < 0.6
      ? at(Math.min(head, 120))
      : next() < 0.5
        ? at(head)
        : Math.max(0, bytes.length - 1 - at(Math.min(bytes.length, 3000)));
  };
  for (let n = 1 + at(6); n > 0; n--) {
    const kind = next();
    if (kind < 0.5) bytes[place()] = at(256);
    else if (kind < 0.75) bytes.fill(NASTY[at(NASTY.length)]!, place(), place() + 1 + at(8));
    else if (kind < 0.85) bytes = bytes.slice(0, at(bytes.length));
    else if (kind < 0.95 && bytes.length > 16) {
      const from = place();
      bytes.copyWithin(place(), from, from + at(64));
    } else {
      const more = new Uint8Array(bytes.length + at(100));
      more.set(bytes);
      bytes = more;
    }
    if (bytes.length === 0) return bytes;
  }
  return bytes;
}
