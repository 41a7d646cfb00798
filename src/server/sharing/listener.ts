import { createServer, request as ask, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { log } from '../log';
import { shared } from '../shared';

/** What may be asked through the door to the network: the performer's page, what it is made of, and what it shows. */
const OPEN = [
  /^\/prompt\/shared\/[\w-]+$/,
  /^\/api\/shared\/[\w-]+(\/(events|time|picture))?$/,
  /^\/_next\/static\/[\w./~%()[\]-]+$/,
  /^\/demo\/[\w.-]+$/,
  /^\/icon\.svg$/,
];
/** Headers of a request that go along; none that would speak for somebody. */
const PASSED = ['accept', 'accept-encoding', 'accept-language', 'range', 'last-event-id', 'user-agent'];

/** Whether a request may come in through the door. */
export const isOpen = (method: string, url: string): boolean =>
  (method === 'GET' || method === 'HEAD') && isPlain(decodedPath(url));

// Another spelling of the way up is one all the same.
const isPlain = (path: string): boolean => !path.includes('..') && OPEN.some((o) => o.test(path));

function decodedPath(url: string): string {
  try {
    return decodeURIComponent(url.split('?')[0]!);
  } catch {
    return '';
  }
}

interface Door {
  server: Server;
  port: number;
}
const door = () => shared('network-door', () => ({ now: null as Door | null }));

function pass(from: IncomingMessage, to: ServerResponse, port: number): void {
  if (!isOpen(from.method ?? '', from.url ?? '')) {
    to.writeHead(404, { 'Content-Type': 'text/plain; charset=utf-8' });
    to.end('Nothing of this name is open to the network.');
    return;
  }
  const headers = Object.fromEntries(PASSED.flatMap((h) => (from.headers[h] ? [[h, from.headers[h]]] : [])));
  const inner = ask(
    {
      host: '127.0.0.1',
      port,
      path: from.url,
      method: from.method,
      headers: { ...headers, host: `127.0.0.1:${port}` },
    },
    (answer) => {
      to.writeHead(answer.statusCode ?? 502, answer.headers);
      answer.pipe(to);
    },
  );
  inner.on('error', () => to.destroy());
  to.on('close', () => inner.destroy());
  inner.end();
}

/** Opens the door to the network, or tells at which port it stands open; `port`: where this server answers itself. */
export async function openDoor(port: number): Promise<number> {
  const there = door().now;
  if (there) return there.port;
  const server = createServer((from, to) => pass(from, to, port));
  server.keepAliveTimeout = 75_000;
  server.on('clientError', (_, socket) => socket.destroy());
  const opened = await new Promise<number>((resolve, reject) => {
    server.once('error', reject);
    // Any port that is free: a known one would be looked for.
    server.listen(0, '0.0.0.0', () => resolve((server.address() as { port: number }).port));
  });
  door().now = { server, port: opened };
  log.info({ port: opened }, 'the performer’s window is open to the network');
  return opened;
}

/** What is being said when the door is closed is said to its end, for so long (ms). */
const LAST_WORD = 500;

/** Closes it, and whatever stands in it. */
export async function closeDoor(): Promise<void> {
  const { now } = door();
  door().now = null;
  if (!now) return;
  const closed = new Promise((done) => now.server.close(done));
  now.server.closeIdleConnections();
  const force = setTimeout(() => now.server.closeAllConnections(), LAST_WORD);
  await closed;
  clearTimeout(force);
}
