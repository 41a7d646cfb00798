import { answered } from './answered';
import { seatOfRequest } from './asking';
import { turnedAway } from './guard';
import { json } from './answers';
import { Refused } from './refused';

export { Refused };
export { binary, factsJson, json } from './answers';
export { asked, body, bytesOf } from './body';
export { told } from './told';
export { answerDirectly, type DirectHandler } from './direct';
export { uploaded } from './upload';
export { askingSeat, onBehalfOf, someSeat } from './asking';

type Handler<P> = (request: Request, params: P) => Promise<Response>;

/** Wraps a route handler: strangers are turned away, and what it throws becomes a clear message with the right status. */
export function route<P extends Record<string, string> = Record<string, never>>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    const refused = turnedAway(request);
    if (refused) return json({ message: refused.message }, refused.status);
    const params = await context.params;
    const asked = new URL(request.url).searchParams;
    return answered(params, asked, seatOfRequest(request), () => handler(request, params));
  };
}
