import { json, route } from '@/server/http';
import { bringBack } from '@/server/prints';

/** Takes the files of a print into its session's media; answers with the edit that lays them out. */
export const POST = route<{ id: string }>(async (_request, { id }) => json(await bringBack(id), 201));
