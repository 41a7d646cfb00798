import { binary } from './answers';
import { answerTo } from './causes';

/**
 * An answer in lines of JSON: what `work` tells while it goes on, and at the end what it gives, or `{message}`. A client
 * that goes gives it up.
 */
export function told(
  request: Request,
  work: (tell: (line: object) => void, signal: AbortSignal) => Promise<object>,
): Response {
  const encoder = new TextEncoder();
  const given = new AbortController();
  request.signal.addEventListener('abort', () => given.abort(new Error('given up')));
  const lines = new ReadableStream<Uint8Array>({
    async start(controller) {
      const tell = (line: object) => {
        try {
          controller.enqueue(encoder.encode(`${JSON.stringify(line)}\n`));
        } catch {
          given.abort(new Error('given up'));
        }
      };
      try {
        tell(await work(tell, given.signal));
      } catch (error) {
        tell(
          answerTo(error)?.body ?? { message: `It could not be made: ${(error as Error).message}. Nothing was kept.` },
        );
      }
      try {
        controller.close();
      } catch {
        // The client had gone.
      }
    },
    cancel: () => given.abort(new Error('given up')),
  });
  return binary(lines, 'application/x-ndjson', { 'X-Accel-Buffering': 'no' });
}
