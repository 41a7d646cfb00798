'use client';
import { useEffect, useRef, useState } from 'react';
import { ask, ServerRefusal, timeNow, useScheme } from '@/client';
import { clockAhead, LINK_GONE, type PromptDoc, type PromptNews, type TimeAnswer } from '@/core/prompt';
import { PromptView } from './promptView';

/** Questions for the time, of which the quickest answer counts; asked again after a while, for clocks drift (ms). */
const QUESTIONS = 8;
const ASK_AGAIN = 60_000;

async function howFarAhead(base: string): Promise<number> {
  const answers: TimeAnswer[] = [];
  for (let i = 0; i < QUESTIONS; i++) {
    const asked = timeNow();
    const { now } = await ask<{ now: number }>(`${base}/time`);
    answers.push({ asked, answered: timeNow(), told: now });
  }
  return clockAhead(answers);
}

/** The performer's window on another machine: read only, until the engineer withdraws its link. */
export function SharedPrompt({ token }: { token: string }) {
  useScheme();
  const base = `/api/shared/${token}`;
  const [doc, setDoc] = useState<PromptDoc | null>(null);
  const [news, setNews] = useState<PromptNews | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const ahead = useRef(0);
  useEffect(() => {
    const look = () =>
      ask<PromptDoc>(base).then(
        (seen) => {
          setDoc(seen);
          setTrouble(null);
        },
        (error: Error) => {
          // Withdrawn, not away: it does not come back.
          if (error instanceof ServerRefusal) setDoc(null);
          setTrouble(
            error instanceof ServerRefusal ? error.message : 'The studio’s machine does not answer. Waiting for it…',
          );
        },
      );
    const time = () =>
      void howFarAhead(base).then(
        (ms) => (ahead.current = ms),
        () => {
          // Asked again after a while.
        },
      );
    const stream = new EventSource(`${base}/events`);
    stream.addEventListener('news', ({ data }) => setNews(JSON.parse(data as string) as PromptNews));
    stream.addEventListener('doc', () => void look());
    // Said as the last word: behind it the door is closed, and nothing more is answered.
    stream.addEventListener('end', () => {
      stream.close();
      setDoc(null);
      setTrouble(LINK_GONE);
    });
    stream.onopen = () => {
      void look();
      time();
    };
    stream.onerror = () => void look();
    const timer = setInterval(time, ASK_AGAIN);
    return () => {
      stream.close();
      clearInterval(timer);
    };
  }, [base]);
  if (!doc)
    return (
      <main className="grid h-screen place-content-center px-6 text-center text-quiet">{trouble ?? 'Opening…'}</main>
    );
  const kept = doc.picture?.file.startsWith('/api/')
    ? { picture: `${base}/picture?${encodeURIComponent(doc.picture.file)}` }
    : {};
  return (
    <>
      {trouble && (
        <p role="status" className="fixed inset-x-0 top-0 z-10 bg-warn p-1 text-center text-ground">
          {trouble}
        </p>
      )}
      <PromptView doc={doc} news={news} now={() => timeNow() + ahead.current} {...kept} />
    </>
  );
}
