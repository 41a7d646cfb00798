import { json, Refused, route } from '@/server/http';
import { allowNetwork, openLink, withdraw } from '@/server/sharing';

const portOf = (request: Request): number => {
  const port = Number(/:(\d+)$/.exec(request.headers.get('host') ?? '')?.[1]);
  if (!port) throw new Refused(400, 'The request does not say at which port this server answers.');
  return port;
};

/** The link to the performer's window that is open to the network; null: none is. */
export const GET = route<{ id: string }>(async (request, { id }) => json(await openLink(id, portOf(request))));

/** Lets a performer in by an address and a code. */
export const POST = route<{ id: string }>(async (request, { id }) =>
  json(await allowNetwork(id, portOf(request)), 201),
);

/** Withdraws the address: windows that were let in by it are closed. */
export const DELETE = route<{ id: string }>(async (_, { id }) => {
  await withdraw(id);
  return json({});
});
