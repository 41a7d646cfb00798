import { factsJson, route } from '@/server/http';
import { cancelPrint, printFacts } from '@/server/prints';

export const GET = route<{ id: string }>(async (_request, { id }) => factsJson(await printFacts(id)));
export const DELETE = route<{ id: string }>(async (_request, { id }) => factsJson(await cancelPrint(id)));
