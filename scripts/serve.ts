// The server: Next behind a gate that says who may ask for what. Started by demo.ts, or by itself with its environment set.
import { readFileSync } from 'node:fs';
import {
  createServer as createPlain,
  type IncomingMessage,
  type RequestListener,
  type ServerResponse,
} from 'node:http';
import { createServer as createTls } from 'node:https';
import path from 'node:path';
import { setFlagsFromString } from 'node:v8';
import next from 'next';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { atThisMachine, loginIn, seatOfLogin, verdict, type Arriving } from '../src/server/gate';
import { directListener } from '../src/server/http/directListener';
import { turnedAway } from '../src/server/http/guard';

// The database's thousands of functions run a few times at a start, enough for V8 to optimise them: a second of processor
// while the first page waits. What works for long (kernels, queries) gets there all the same.
setFlagsFromString('--wasm-tiering-budget=30000000');

const root = path.resolve(process.env.WIDE_ROOM_APP ?? process.cwd());
const port = Number(process.env.WIDE_ROOM_PORT ?? 4610);
const lan = process.env.WIDE_ROOM_LAN === '1';
const { WIDE_ROOM_CERT: cert, WIDE_ROOM_KEY: key } = process.env;
const hostname = lan ? '0.0.0.0' : '127.0.0.1';

/** Requests that one address may send: more than twenty windows need, less than a flood. */
const flood = new RateLimiterMemory({ points: 3000, duration: 10 });

const arriving = (request: IncomingMessage): Arriving => ({
  method: request.method ?? '',
  url: request.url ?? '',
  host: request.headers.host ?? '',
  remote: request.socket.remoteAddress ?? '',
  forwarded: 'x-forwarded-for' in request.headers || 'forwarded' in request.headers,
});

function told(response: ServerResponse, status: number, message: string, headers: Record<string, string> = {}): void {
  response.writeHead(status, { 'Content-Type': 'application/json', 'Cache-Control': 'no-store', ...headers });
  response.end(JSON.stringify({ message }));
}

const gate =
  (handle: RequestListener): RequestListener =>
  (request, response) => {
    void (async () => {
      // What only the gate says is taken from nobody else.
      for (const name of Object.keys(request.headers))
        if (name.startsWith('x-wide-room-')) delete request.headers[name];
      const strange = turnedAway({
        method: request.method ?? '',
        headers: { get: (name) => request.headers[name]?.toString() ?? null },
      });
      if (strange) return told(response, strange.status, strange.message);
      const from = arriving(request);
      const seat = seatOfLogin(loginIn(request.headers.cookie));
      const said = verdict(from, seat?.role ?? null);
      if (!said.pass)
        return told(response, said.status, said.message, {
          ...(said.location ? { Location: said.location } : {}),
          ...(said.allow ? { Allow: said.allow } : {}),
        });
      if (
        lan &&
        (await flood.consume(from.remote).then(
          () => false,
          () => true,
        ))
      )
        return told(response, 429, 'Too many requests from one machine. Wait a moment.', { 'Retry-After': '10' });
      request.headers['x-wide-room-remote'] = from.remote;
      request.headers['x-wide-room-role'] = said.role;
      if (seat) request.headers['x-wide-room-name'] = encodeURIComponent(seat.name);
      // To pack what stays in this machine takes longer than to hand it over.
      if (atThisMachine(from)) delete request.headers['accept-encoding'];
      if (cert || request.headers['x-forwarded-proto'] === 'https') request.headers['x-wide-room-tls'] = '1';
      handle(request, response);
    })().catch(() => response.destroy());
  };

const app = next({ dev: false, dir: root, hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
const listener = gate((request, response) => {
  if (!directListener().answer?.(request, response)) void handle(request, response);
});
const server =
  cert && key ? createTls({ cert: readFileSync(cert), key: readFileSync(key) }, listener) : createPlain(listener);
server.keepAliveTimeout = 75_000;
// A film's sound over a slow network takes longer than the five minutes that a request may take otherwise.
server.requestTimeout = 0;
server.listen(port, hostname, () => process.stdout.write(`Ready at ${port}\n`));
