import { json, route } from '@/server/http';
import { cancelPrint, printFacts } from '@/server/prints';

export const GET = route<{ id: string }>(async (_request, { id }) => json(await printFacts(id)));
export const DELETE = route<{ id: string }>(async (_request, { id }) => json(await cancelPrint(id)));
