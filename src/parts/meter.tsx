'use client';
import { clsx } from 'clsx';
import { useRef } from 'react';
import { readLevel } from '@/client';
import { ZONE } from '@/core/measure';
import { formatDb } from '@/core/units';
import { drawAttribute, drawText } from './drawn';
import { useFrame } from './useFrame';
import { useSeen } from './useSeen';

/** dBFS at the left end. */
const LEFT = -60;

export const share = (db: number): number => Math.min(1, Math.max(0, (db - LEFT) / -LEFT));
const percent = (db: number) => `${(share(db) * 100).toFixed(2)}%`;

// Hard steps: below the zone, in it, above it, over full scale.
const COLOURS = `linear-gradient(90deg, var(--signal) 0 ${percent(ZONE.from)}, var(--fine) ${percent(ZONE.from)} ${percent(ZONE.to)}, var(--warn) ${percent(ZONE.to)} 99.4%, var(--stop) 99.4%)`;

interface MeterProps {
  /** Keys of the levels it shows; the highest counts. */
  keys: readonly string[];
  label: string;
  zone?: boolean;
  height?: number;
  className?: string;
}

/** A horizontal level meter, -60 to 0 dBFS, with held peak. */
export function Meter({ keys, label, zone = false, height = 6, className = '' }: MeterProps) {
  const bar = useRef<HTMLDivElement>(null);
  const hold = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLDivElement>(null);
  const seen = useSeen(root);
  const last = useRef({ db: NaN, held: NaN });
  useFrame(() => {
    if (!seen.current) return;
    const read = keys.map(readLevel);
    const db = Math.max(-Infinity, ...read.map((r) => r.db));
    const held = Math.max(-Infinity, ...read.map((r) => r.hold));
    // Most meters stand still most of the time.
    if (db === last.current.db && held === last.current.held) return;
    last.current = { db, held };
    if (bar.current) bar.current.style.clipPath = `inset(0 ${((1 - share(db)) * 100).toFixed(1)}% 0 0)`;
    if (hold.current) {
      hold.current.style.left = percent(held);
      hold.current.style.opacity = held > LEFT ? '1' : '0';
      hold.current.style.background = held >= -0.05 ? 'var(--stop)' : 'var(--text)';
    }
    drawAttribute(root.current, 'aria-valuenow', String(Math.round(Math.max(LEFT, db))));
  });
  return (
    <div
      ref={root}
      role="meter"
      aria-label={label}
      aria-valuemin={LEFT}
      aria-valuemax={0}
      aria-valuenow={LEFT}
      className={clsx('relative overflow-hidden rounded-xs bg-track', className)}
      style={{ height }}
    >
      {zone && (
        <div
          className="absolute inset-y-0 bg-fine opacity-45"
          style={{ left: percent(ZONE.from), right: `${((1 - share(ZONE.to)) * 100).toFixed(2)}%` }}
        />
      )}
      <div ref={bar} className="absolute inset-0" style={{ background: COLOURS, clipPath: 'inset(0 100% 0 0)' }} />
      <div ref={hold} className="absolute inset-y-0 w-0.5" style={{ opacity: 0 }} />
    </div>
  );
}

/** The held peak as a figure. */
export function PeakFigure({ keys, className = '' }: { keys: readonly string[]; className?: string }) {
  const text = useRef<HTMLSpanElement>(null);
  const seen = useSeen(text);
  const last = useRef(NaN);
  useFrame(() => {
    if (!text.current || !seen.current) return;
    const held = Math.max(-Infinity, ...keys.map((k) => readLevel(k).hold));
    if (held === last.current) return;
    last.current = held;
    drawText(text.current, held > LEFT - 30 ? formatDb(held) : '–');
    text.current.style.color =
      held >= -0.05 ? 'var(--stop)' : held > ZONE.to ? 'var(--warn)' : held >= ZONE.from ? 'var(--fine)' : '';
  });
  return (
    <span ref={text} className={clsx('figure', className)}>
      –
    </span>
  );
}
