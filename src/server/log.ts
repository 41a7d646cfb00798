import pino from 'pino';

const MOST_TEXT = 1000;

interface Brief {
  type?: string;
  message: string;
  code?: string;
  stack?: string;
  cause?: Brief;
}

// A failed query tells all that it was given: whole documents, and what performers are to say.
const short = (text: string): string => text.split('\nparams: ')[0]!.slice(0, MOST_TEXT);

/** What the log says of an error: its kind, message, code and place, never the data that it carries along. */
export function brief(error: unknown): Brief {
  if (!(error instanceof Error)) return { message: short(String(error)) };
  const { code, cause } = error as NodeJS.ErrnoException & { cause?: unknown };
  const places = (error.stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
  return {
    type: error.name,
    message: short(error.message),
    ...(typeof code === 'string' ? { code } : {}),
    stack: places
      .slice(0, 12)
      .join('\n')
      .slice(0, 3 * MOST_TEXT),
    ...(cause === undefined ? {} : { cause: brief(cause) }),
  };
}

export const log = pino({
  level: process.env.WIDE_ROOM_LOG ?? 'info',
  base: undefined,
  timestamp: pino.stdTimeFunctions.isoTime,
  serializers: { err: brief, error: brief },
});
