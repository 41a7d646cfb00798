import { sheetPage } from '@/core/rooms';
import { route } from '@/server/http';
import { roomOf } from '@/server/rooms';

/** The sheet of the room's calibration, to print or keep. */
export const GET = route<{ id: string }>(
  async (_request, { id }) =>
    new Response(sheetPage(await roomOf(id)), {
      headers: {
        'Content-Type': 'text/html; charset=utf-8',
        'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
      },
    }),
);
