import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import path from 'node:path';

const ROOT = path.resolve(import.meta.dirname, '../..');

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

/** A program of the build as a process of its own. */
export class Program {
  private readonly child: ChildProcess;
  readonly ended: Promise<void>;
  said = '';

  constructor(args: readonly string[], env: Record<string, string>) {
    this.child = spawn(process.execPath, args, {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, NODE_ENV: 'production', WIDE_ROOM_APP: ROOT, ...env },
    });
    const hear = (piece: Buffer) => (this.said = (this.said + piece.toString()).slice(-8000));
    this.child.stdout!.on('data', hear);
    this.child.stderr!.on('data', hear);
    this.ended = new Promise((resolve) => this.child.once('exit', () => resolve()));
  }

  get pid(): number {
    return this.child.pid!;
  }

  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    this.child.kill(signal);
    await this.ended;
  }

  /** Resolves when `there` holds; throws what it said where it ends before. */
  async until(there: () => boolean | Promise<boolean>): Promise<void> {
    let over = false;
    void this.ended.then(() => (over = true));
    while (!(await there())) {
      if (over) throw new Error(`it ended:\n${this.said}`);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }
}

/** The server on a port, as the demo starts it. */
export class Server extends Program {
  constructor(
    readonly port: number,
    data: string,
    env: Record<string, string> = {},
  ) {
    super(['dist/demo/serve.mjs'], { WIDE_ROOM_DATA: data, WIDE_ROOM_PORT: String(port), ...env });
  }

  /** Resolves when it answers; gives how long that took (ms). */
  async ready(): Promise<number> {
    const began = performance.now();
    await this.until(() =>
      fetch(`http://127.0.0.1:${this.port}/api/sessions`).then(
        (r) => r.ok,
        () => false,
      ),
    );
    return performance.now() - began;
  }
}

/** JSON that was answered and accepted; null where the server is gone or refuses. */
export async function acknowledged<T>(url: string, method: string, body?: object | Uint8Array): Promise<T | null> {
  try {
    const raw = body instanceof Uint8Array;
    const response = await fetch(url, {
      method,
      ...(body === undefined
        ? {}
        : {
            headers: { 'Content-Type': raw ? 'application/octet-stream' : 'application/json' },
            body: raw ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
          }),
    });
    const answer = (await response.json()) as T;
    return response.ok ? answer : null;
  } catch {
    return null;
  }
}
