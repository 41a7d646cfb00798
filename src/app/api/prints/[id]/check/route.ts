import { json, route } from '@/server/http';
import { checkPrinted } from '@/server/prints';

/** Whether the files of a print still are what was printed; refused with the file's name otherwise. */
export const POST = route<{ id: string }>(async (_request, { id }) => {
  await checkPrinted(id);
  return json({ whole: true });
});
