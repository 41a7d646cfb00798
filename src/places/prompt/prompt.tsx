'use client';
import { useEffect, useState } from 'react';
import { openSession, promptChannel, useScheme, useSession, type PromptNews } from '@/client';
import type { Cue } from '@/core/session';

/** The performer's window: large words, a countdown, red while recording. It only follows. */
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
  if (!doc) return <main className="grid h-screen place-content-center text-quiet">Opening the session…</main>;
  const at = news ? doc.cues.findIndex((c) => c.id === news.cue) : -1;
  const cue = doc.cues[at];
  const recording = news?.state === 'recording';
  const left = news && news.lineAt !== null ? (news.lineAt - news.position) / doc.format.sampleRate : 0;
  const spoken = recording && left <= 0;
  return (
    <main
      className={`flex h-screen flex-col gap-6 border-[12px] p-[4vw] ${spoken ? 'border-rec' : 'border-transparent'}`}
      data-prompt={spoken ? 'speak' : recording ? 'ready' : 'still'}
    >
      <div className="flex items-baseline justify-between text-[2.4vw] text-quiet">
        <span>{cue ? `${cue.number} · ${cue.character}` : doc.name}</span>
        <span aria-live="polite" className={spoken ? 'font-[640] text-rec' : ''}>
          {spoken ? 'recording' : recording ? 'ready' : ''}
        </span>
      </div>
      {recording && left > 0 && (
        <div className="figure text-[9vw]! leading-none text-brass" aria-label="Countdown">
          {Math.ceil(left)}
        </div>
      )}
      <p className={`text-[5.4vw] font-[520] leading-[1.2] ${cue ? '' : 'text-quiet'}`}>
        {cue?.text || 'The line that is chosen on the floor appears here.'}
      </p>
      <Next cue={doc.cues[at + 1]} shown={cue !== undefined} />
    </main>
  );
}

function Next({ cue, shown }: { cue: Cue | undefined; shown: boolean }) {
  if (!shown || !cue) return null;
  return (
    <p className="mt-auto truncate text-[2.4vw] text-quiet">
      {cue.number} · {cue.character}: {cue.text}
    </p>
  );
}
