'use client';
import { clsx } from 'clsx';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { useDoc } from '@/client';
import type { SessionDoc } from '@/core/session';
import { frameRate, sampleToTimecode, timecodeToFrames, timecodeToSample } from '@/core/units';

/** Timecode of a timeline sample in a session. */
export function timecodeOf(
  doc: { format: Pick<SessionDoc['format'], 'frameRate' | 'startTimecode' | 'sampleRate'> },
  sample: number,
): string {
  const rate = frameRate(doc.format.frameRate);
  return sampleToTimecode(sample, timecodeToFrames(doc.format.startTimecode, rate), rate, doc.format.sampleRate);
}

/** Timeline sample of a typed timecode; throws RangeError that says how to mend. */
export function sampleOf(doc: Pick<SessionDoc, 'format'>, text: string): number {
  const rate = frameRate(doc.format.frameRate);
  const start = timecodeToFrames(doc.format.startTimecode, rate);
  const sample = timecodeToSample(text, start, rate, doc.format.sampleRate);
  if (sample < 0) throw new RangeError(`${text} lies before ${doc.format.startTimecode}, the start of this session`);
  return sample;
}

interface TimecodeFieldProps {
  label: string;
  sample: number;
  onChange: (sample: number) => void;
  className?: string;
}

/** A timecode that can be typed, with or without colons; arrow keys go by frames. */
export function TimecodeField({ label, sample, onChange, className = '' }: TimecodeFieldProps) {
  const doc = useDoc('format');
  const [typing, setTyping] = useState<string | null>(null);
  const dropped = useRef(false);
  const text = timecodeOf(doc, sample);
  const commit = () => {
    const typed = dropped.current ? null : typing;
    dropped.current = false;
    setTyping(null);
    if (typed === null || typed.trim() === '' || typed === text) return;
    try {
      onChange(sampleOf(doc, typed));
    } catch (error) {
      toast.error(`${(error as Error).message}. It stays at ${text}.`);
    }
  };
  const step = (by: number) => {
    const rate = frameRate(doc.format.frameRate);
    onChange(Math.max(0, Math.round(sample + (by * doc.format.sampleRate * rate.den) / rate.num)));
  };
  return (
    <input
      aria-label={label}
      title={`${label}: type a timecode`}
      value={typing ?? text}
      spellCheck={false}
      className={clsx(
        'figure w-[13.4ch] rounded-sm border border-transparent bg-transparent px-1 hover:border-line focus:border-brass focus:outline-none',
        className,
      )}
      // Nothing is typed yet: what changes meanwhile is shown, and leaving the field changes nothing.
      onFocus={(e) => e.target.select()}
      onChange={(e) => setTyping(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') e.currentTarget.blur();
        else if (e.key === 'Escape') {
          dropped.current = true;
          e.currentTarget.blur();
        } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
          e.preventDefault();
          step(e.key === 'ArrowUp' ? 1 : -1);
          setTyping(null);
        }
      }}
    />
  );
}
