import { createServer, connect, type Socket } from 'node:net';

export interface Cable {
  url: string;
  /** Drops what is open and lets nothing through until `mend`. */
  cut(): void;
  mend(): void;
  close(): Promise<void>;
}

/** A network cable between browser and server that can be cut. */
export async function cableTo(url: string): Promise<Cable> {
  const port = Number(new URL(url).port);
  const open = new Set<Socket>();
  let whole = true;
  const server = createServer((near) => {
    if (!whole) {
      near.destroy();
      return;
    }
    const far = connect(port, '127.0.0.1');
    for (const [from, to] of [
      [near, far],
      [far, near],
    ] as const) {
      open.add(from);
      from.pipe(to);
      from.on('error', () => to.destroy());
      from.on('close', () => {
        open.delete(from);
        to.destroy();
      });
    }
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const drop = () => open.forEach((s) => s.destroy());
  return {
    url: `http://127.0.0.1:${(server.address() as { port: number }).port}`,
    cut: () => {
      whole = false;
      drop();
    },
    mend: () => void (whole = true),
    close: () =>
      new Promise((resolve) => {
        drop();
        server.close(() => resolve());
      }),
  };
}
