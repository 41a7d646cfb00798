import { afterAll, afterEach, expect, vi } from 'vitest';
import 'reflect-metadata';

// Sound of minutes is compared as bytes first: element by element it takes seconds. Where bytes differ the usual way says in what.
expect.addEqualityTesters([
  (a: unknown, b: unknown) => {
    if (!ArrayBuffer.isView(a) || !ArrayBuffer.isView(b)) return undefined;
    if (a.constructor !== b.constructor || a.byteLength !== b.byteLength) return undefined;
    const bytes = (view: ArrayBufferView) => Buffer.from(view.buffer, view.byteOffset, view.byteLength);
    return bytes(a).equals(bytes(b)) ? true : undefined;
  },
]);

// The next file may be of the same process.
afterAll(() => void vi.unstubAllGlobals());

if (typeof Element !== 'undefined') {
  (await import('./vitest-dom')).likeBrowser();
  // What a test has rendered is gone before the next one.
  const { cleanup } = await import('@testing-library/react');
  afterEach(cleanup);
}
