import { ServerRefusal } from './http';

/**
 * Asks for something that takes a while and is told in lines of JSON: `onLine` hears all but the last, which is the
 * answer. Throws ServerRefusal, or the signal's reason when it is given up.
 */
export async function askInLines<T>(
  url: string,
  body: unknown,
  onLine: (line: Record<string, unknown>) => void,
  signal: AbortSignal,
): Promise<T> {
  const response = await fetch(url, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Accept: 'application/x-ndjson' },
    body: JSON.stringify(body),
    signal,
  });
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let last: Record<string, unknown> | null = null;
  let rest = '';
  const take = (line: string) => {
    if (!line.trim()) return;
    if (last) onLine(last);
    last = JSON.parse(line) as Record<string, unknown>;
  };
  for (let read = await reader.read(); !read.done; read = await reader.read()) {
    const lines = (rest + read.value).split('\n');
    rest = lines.pop()!;
    lines.forEach(take);
    // What is told as it happens is told at once; only an answer has no other line behind it.
    if (last && 'done' in last) {
      onLine(last);
      last = null;
    }
  }
  take(rest);
  const answer = last as Record<string, unknown> | null;
  if (!answer) throw new Error('The server ended before it had answered.');
  if (!response.ok || typeof answer.message === 'string')
    throw new ServerRefusal(response.status, String(answer.message), answer);
  return answer as T;
}
