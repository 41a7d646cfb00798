import { factsJson, route } from '@/server/http';
import { cancelPrint, printAgain, printFacts } from '@/server/prints';

/** How far a print is, and what it proved. */
export const GET = route<{ id: string }>(async (_request, { id }) => factsJson(await printFacts(id)));

/** Prints the same once more, as the session was then. */
export const POST = route<{ id: string }>(async (_request, { id }) => factsJson(await printAgain(id), 201));

/** Cancels a print that runs; what it has written is removed. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => factsJson(await cancelPrint(id)));
