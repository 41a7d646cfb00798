/** Hears what a server's stream of events tells, from its first word on, until it is ended. */
export async function hearEvents(url: string, heard: (event: string) => void): Promise<() => void> {
  const stop = new AbortController();
  const response = await fetch(`${url}/api/events`, { signal: stop.signal });
  const reader = response.body!.getReader();
  const decoder = new TextDecoder();
  let text = '';
  void (async () => {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) return;
      text += decoder.decode(value, { stream: true });
      const parts = text.split('\n\n');
      text = parts.pop()!;
      for (const part of parts) if (part.startsWith('data: ')) heard(part.slice(6));
    }
  })().catch(() => {
    // It was ended, or the server went.
  });
  return () => stop.abort();
}
