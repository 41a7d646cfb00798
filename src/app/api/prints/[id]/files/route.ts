import { factsJson, route } from '@/server/http';
import { removePrint } from '@/server/prints';

/** Takes a print that is over out of the list, with its files. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => factsJson(await removePrint(id)));
