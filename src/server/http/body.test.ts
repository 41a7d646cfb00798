import { describe, expect, it } from 'vitest';
import { body } from './body';

const asked = (sent: BodyInit | null) =>
  new Request('http://x/', { method: 'POST', ...(sent === null ? {} : { body: sent, duplex: 'half' }) });

describe('the body of a request', () => {
  it('is JSON, wherever its bytes are cut', async () => {
    const bytes = new TextEncoder().encode('{"a":"Möwe"}');
    const cut = new ReadableStream<Uint8Array>({
      start(controller) {
        for (const byte of bytes) controller.enqueue(Uint8Array.of(byte));
        controller.close();
      },
    });
    expect(await body(asked(cut))).toEqual({ a: 'Möwe' });
  });
  it.each([
    ['words', 'lamp', /must be JSON/],
    ['nothing', null, /must be JSON/],
    ['bytes that are no UTF-8', Uint8Array.of(0x22, 0xff, 0x22), /JSON in UTF-8/],
  ])('is no %s', async (_, sent, why) => {
    await expect(body(asked(sent))).rejects.toThrow(why);
  });
  it('is given up where it grows too large, before the rest is sent', async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent++;
        controller.enqueue(new Uint8Array(1024 * 1024).fill(0x20));
      },
    });
    await expect(body(asked(endless))).rejects.toThrow(/may hold 32 MB/);
    expect(sent).toBeLessThan(40);
  });
});
