import { nanoid } from 'nanoid';
import { isId } from '@/core/session';
import { log } from '../log';
import { json } from './answers';
import { onBehalfOf } from './asking';
import { answerTo } from './causes';

/** What `work` answers on behalf of a seat; what it throws becomes a clear message with the right status. */
export async function answered(
  params: Record<string, string> | undefined,
  asked: URLSearchParams,
  seat: string | null,
  work: () => Promise<Response>,
): Promise<Response> {
  try {
    // Before anything is looked up or any path is built.
    for (const [name, value] of Object.entries(params ?? {}))
      if (name !== 'file' && !isId(value)) return json({ message: `"${value}" names nothing here.` }, 404);
    if ([...asked].flat().some((text) => /[\0\uFFFD]/.test(text)))
      return json({ message: 'The address holds characters that no text has. Nothing was changed.' }, 400);
    return await onBehalfOf(seat, work);
  } catch (error) {
    const told = answerTo(error);
    if (told) return json(told.body, told.status);
    const reference = nanoid(6);
    log.error({ reference, error }, 'a request failed for a reason that was not foreseen');
    return json(
      {
        message: `The server failed at this for a reason that was not foreseen. Nothing that was stored before is lost. Its log holds the cause under ${reference}.`,
      },
      500,
    );
  }
}
