import { factsJson, route } from '@/server/http';
import { cancelPrint, printAgain, printFacts } from '@/server/prints';

export const GET = route<{ id: string }>(async (_request, { id }) => factsJson(await printFacts(id)));
export const POST = route<{ id: string }>(async (_request, { id }) => factsJson(await printAgain(id), 201));
export const DELETE = route<{ id: string }>(async (_request, { id }) => factsJson(await cancelPrint(id)));
