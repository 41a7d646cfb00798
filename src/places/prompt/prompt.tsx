'use client';
import { useEffect, useMemo, useState } from 'react';
import { openSession, promptChannel, timeNow, useScheme, useSession } from '@/client';
import { promptDocOf, type PromptNews } from '@/core/prompt';
import { PromptView } from './promptView';

/** The performer's window in this browser. It only follows. */
export function Prompt({ session }: { session: string }) {
  const doc = useSession((s) => (s.id === session ? s.doc : null));
  useScheme();
  const [news, setNews] = useState<PromptNews | null>(null);
  useEffect(() => {
    void openSession(session);
    const channel = promptChannel(session);
    channel.onmessage = ({ data }: MessageEvent<PromptNews>) => setNews(data);
    return () => channel.close();
  }, [session]);
  const seen = useMemo(() => (doc ? promptDocOf(doc) : null), [doc]);
  if (!seen) return <main className="grid h-screen place-content-center text-quiet">Opening the session…</main>;
  return <PromptView doc={seen} news={news} now={timeNow} />;
}
