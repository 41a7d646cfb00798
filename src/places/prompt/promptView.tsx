'use client';
import { clsx } from 'clsx';
import { useRef, useState } from 'react';
import { heardAt, type PromptDoc, type PromptNews } from '@/core/prompt';
import { timecodeOf, useFrame, drawText } from '@/parts';
import { HeldPicture, type Clock } from '../floor/heldPicture';
import { Lead } from '../floor/lead';

interface PromptViewProps {
  doc: PromptDoc;
  news: PromptNews | null;
  /** Milliseconds since 1970 by the clock of the machine that plays. */
  now: () => number;
  /** Where the picture is fetched from, where that is not its file. */
  picture?: string;
}

/** What the performer sees, in a window of any size: picture, words, countdown, timecode, red while recording. */
export function PromptView({ doc, news, now, picture }: PromptViewProps) {
  const [shown, setShown] = useState({ picture: true, words: true });
  const told = useRef(news);
  told.current = news;
  const { sampleRate } = doc.format;
  const [clock] = useState((): Clock => ({
    position: () => (told.current ? heardAt(told.current, now(), sampleRate) : 0),
    rolls: () => told.current !== null && told.current.state !== 'stopped',
  }));
  const secondsLeft = () => {
    const { current } = told;
    if (current?.state !== 'recording' || current.lineAt === null) return null;
    return (current.lineAt - clock.position()) / sampleRate;
  };
  const at = news ? doc.cues.findIndex((c) => c.id === news.cue) : -1;
  const cue = doc.cues[at];
  const left = secondsLeft();
  const recording = news?.state === 'recording';
  const spoken = recording && (left === null || left <= 0);
  const withPicture = doc.picture !== null && shown.picture;
  return (
    <main
      className={clsx(
        '@container-size group flex h-screen flex-col overflow-hidden border-[clamp(6px,1.2vmin,14px)]',
        spoken ? 'border-rec' : 'border-transparent',
      )}
      data-prompt={spoken ? 'speak' : recording ? 'ready' : 'still'}
    >
      <header className="flex shrink-0 items-baseline justify-between gap-[3cqmin] px-[3cqmin] py-[1.5cqmin] text-[max(13px,3.2cqmin)] text-quiet">
        <span className="min-w-0 truncate">{cue ? `${cue.number} · ${cue.character}` : doc.name}</span>
        <span aria-live="polite" className={spoken ? 'font-[640] text-rec' : ''}>
          {spoken ? 'recording' : recording ? 'ready' : ''}
        </span>
        <Timecode doc={doc} clock={clock} />
      </header>
      {withPicture && (
        <div className="relative min-h-0 flex-[3] bg-black">
          <HeldPicture
            picture={doc.picture!}
            format={doc.format}
            clock={clock}
            {...(picture === undefined ? {} : { src: picture })}
          />
          <Lead lead={doc.lead} left={secondsLeft} />
          <Countdown left={secondsLeft} />
        </div>
      )}
      {(shown.words || !withPicture) && (
        <div className="relative flex min-h-0 flex-[2] flex-col overflow-hidden p-[3cqmin]">
          {!withPicture && <Lead lead={doc.lead} left={secondsLeft} />}
          {!withPicture && <Countdown left={secondsLeft} />}
          <Words text={cue?.text ?? null} />
          <Next cue={cue ? doc.cues[at + 1] : undefined} />
        </div>
      )}
      <div className="absolute bottom-2 right-2 flex gap-2 opacity-0 focus-within:opacity-100 group-hover:opacity-100">
        {doc.picture && (
          <button
            className="chip bg-panel"
            aria-pressed={shown.picture}
            onClick={() => setShown((s) => ({ ...s, picture: !s.picture }))}
          >
            picture
          </button>
        )}
        <button
          className="chip bg-panel"
          aria-pressed={shown.words}
          onClick={() => setShown((s) => ({ ...s, words: !s.words }))}
        >
          words
        </button>
        <button className="chip bg-panel" onClick={() => void document.documentElement.requestFullscreen?.()}>
          whole screen
        </button>
      </div>
    </main>
  );
}

function Timecode({ doc, clock }: { doc: PromptDoc; clock: Clock }) {
  const text = useRef<HTMLSpanElement>(null);
  useFrame(() => {
    drawText(text.current, timecodeOf(doc, clock.position()));
  });
  return <span ref={text} className="figure shrink-0 text-[1em]" data-testid="prompt-timecode" />;
}

/** Whole seconds until the words start. */
function Countdown({ left: secondsLeft }: { left: () => number | null }) {
  const text = useRef<HTMLDivElement>(null);
  useFrame(() => {
    if (!text.current) return;
    const left = secondsLeft();
    const shown = left !== null && left > 0;
    text.current.style.visibility = shown ? 'visible' : 'hidden';
    if (shown) drawText(text.current, String(Math.ceil(left)));
  });
  return (
    <div
      ref={text}
      aria-label="Countdown"
      className="figure invisible absolute right-[3cqmin] top-[2cqmin] z-1 text-[max(40px,18cqmin)] leading-none text-brass"
    />
  );
}

/** Longer lines are written smaller, so that all of them is seen. */
function Words({ text }: { text: string | null }) {
  const long = (text ?? '').length;
  const size = long > 320 ? 4.2 : long > 160 ? 5.4 : long > 80 ? 7 : 9;
  return (
    <p
      className={clsx('min-h-0 flex-1 overflow-y-auto font-[520] leading-[1.2]', !text && 'text-quiet')}
      style={{ fontSize: `max(18px, ${size}cqmin)` }}
    >
      {text ?? 'The line that is chosen on the floor appears here.'}
    </p>
  );
}

function Next({ cue }: { cue: PromptDoc['cues'][number] | undefined }) {
  if (!cue) return null;
  return (
    <p className="mt-auto shrink-0 truncate pt-[1cqmin] text-[max(12px,3cqmin)] text-quiet">
      {cue.number} · {cue.character}: {cue.text}
    </p>
  );
}
