import { nanoid } from 'nanoid';
import { isId } from '@/core/session';
import { onBehalfOf, seatOfRequest } from './asking';
import { answerTo } from './causes';
import { log } from '../log';
import { turnedAway } from './guard';
import { json } from './answers';
import { Refused } from './refused';

export { Refused };
export { binary, factsJson, json } from './answers';
export { asked, body, bytesOf } from './body';
export { told } from './told';
export { uploaded } from './upload';
export { askingSeat, onBehalfOf, someSeat } from './asking';

type Handler<P> = (request: Request, params: P) => Promise<Response>;

/** Wraps a route handler: strangers are turned away, and what it throws becomes a clear message with the right status. */
export function route<P extends Record<string, string> = Record<string, never>>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    const refused = turnedAway(request);
    if (refused) return json({ message: refused.message }, refused.status);
    try {
      const params = await context.params;
      // Before anything is looked up or any path is built.
      for (const [name, value] of Object.entries(params ?? {}))
        if (name !== 'file' && !isId(value)) return json({ message: `"${value}" names nothing here.` }, 404);
      if ([...new URL(request.url).searchParams].flat().some((text) => /[\0\uFFFD]/.test(text)))
        return json({ message: 'The address holds characters that no text has. Nothing was changed.' }, 400);
      return await onBehalfOf(seatOfRequest(request), () => handler(request, params));
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
  };
}
