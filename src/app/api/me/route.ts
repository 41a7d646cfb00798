import { NamePerson } from '@/core/wire';
import { asked, json, route, someSeat } from '@/server/http';
import { namePerson, personOf } from '@/server/sessions';

export const dynamic = 'force-dynamic';

/** Who sits at this browser. */
export const GET = route(async (request) => {
  const role = request.headers.get('x-wide-room-role') ?? 'engineer';
  // The seat that is signed in, where this is another machine.
  const login = request.headers.get('x-wide-room-name');
  return json({ ...(await personOf(someSeat())), role, login: login === null ? null : decodeURIComponent(login) });
});

/** {name, hue}: a name that is typed once, and a colour. */
export const PUT = route(async (request) =>
  json(await namePerson(someSeat(), await asked(request, NamePerson, 'who sits here'))),
);
