'use client';
import { useRef } from 'react';
import type { Settings } from '@/core/session';
import { useFrame } from '@/parts';

/** How long the picture flashes where a line starts (s). */
const FLASH = 0.12;

interface LeadProps {
  lead: Pick<Settings['lead'], 'streamer' | 'flash'>;
  /** Seconds until the line starts that is led in to; null: none is. */
  left: () => number | null;
}

/** What leads the performer in, over the picture: a line that runs across it, and a flash where the words start. */
export function Lead({ lead: { streamer, flash: flashes }, left: secondsLeft }: LeadProps) {
  const line = useRef<HTMLDivElement>(null);
  const flash = useRef<HTMLDivElement>(null);
  useFrame(() => {
    const left = secondsLeft();
    const runs = left !== null && left > 0 && left <= streamer;
    if (line.current) {
      line.current.style.visibility = runs ? 'visible' : 'hidden';
      if (runs) line.current.style.left = `${(100 * (1 - left / streamer)).toFixed(2)}%`;
    }
    if (flash.current)
      flash.current.style.opacity = flashes && left !== null && left <= 0 && left > -FLASH ? '0.75' : '0';
  });
  return (
    <>
      <div
        ref={line}
        className="pointer-events-none invisible absolute inset-y-0 w-1 bg-brass"
        data-testid="streamer"
      />
      <div ref={flash} className="pointer-events-none absolute inset-0 bg-text opacity-0" data-testid="flash" />
    </>
  );
}
