'use client';
import { clsx } from 'clsx';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { toast } from 'sonner';
import { formatDb, readFigure } from '@/core/units';

interface NumberFieldProps {
  label: string;
  value: number;
  unit?: string;
  min: number;
  max: number;
  step?: number;
  digits?: number;
  /** Double-click goes back to it. */
  reset?: number;
  log?: boolean;
  plus?: boolean;
  /** While dragging. */
  onPreview?: (value: number) => void;
  onChange: (value: number) => void;
  className?: string;
  disabled?: boolean;
  /** What the search for actions calls it by. */
  action?: string;
}

/** Pixels for the whole range while dragging. */
const TRAVEL = 320;

/**
 * A figure with unit: drag sideways, arrow keys (Shift: ten steps), type after Enter or a click,
 * double-click for the usual value.
 */
export function NumberField(props: NumberFieldProps) {
  const {
    label,
    value,
    unit = '',
    min,
    max,
    step = 0.1,
    digits = 1,
    reset,
    log,
    plus,
    onPreview,
    onChange,
    className = '',
    disabled,
    action,
  } = props;
  const [typing, setTyping] = useState<string | null>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  const drag = useRef<{ x: number; from: number; moved: boolean; last: number } | null>(null);
  const cancelled = useRef(false);
  /** Begun with a digit: what stood there before is gone already. */
  const fresh = useRef(false);

  const fit = (v: number) => {
    const near = Math.round(v / step) * step;
    return Math.min(max, Math.max(min, Number(near.toFixed(6))));
  };
  const along = (from: number, dx: number) =>
    log && min > 0 ? fit(from * Math.pow(max / min, dx / TRAVEL)) : fit(from + ((max - min) * dx) / TRAVEL);
  const shown = dragged ?? value;
  const text =
    shown <= min && unit.startsWith('dB') && min <= -100
      ? '–∞'
      : unit.startsWith('dB')
        ? formatDb(shown, digits, plus)
        : shown.toFixed(digits);

  const down = (e: PointerEvent<HTMLElement>) => {
    if (disabled || e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { x: e.clientX, from: value, moved: false, last: value };
  };
  const move = (e: PointerEvent<HTMLElement>) => {
    const d = drag.current;
    if (!d) return;
    const dx = e.clientX - d.x;
    if (!d.moved && Math.abs(dx) < 3) return;
    d.moved = true;
    d.last = along(d.from, e.shiftKey ? dx / 8 : dx);
    setDragged(d.last);
    onPreview?.(d.last);
  };
  const up = () => {
    const d = drag.current;
    drag.current = null;
    setDragged(null);
    if (!d) return;
    if (d.moved) onChange(d.last);
  };
  const begin = (text: string, afresh = false) => {
    fresh.current = afresh;
    setTyping(text);
  };
  const keys = (e: KeyboardEvent<HTMLElement>) => {
    const by = step * (e.shiftKey ? 10 : 1);
    if (e.key === 'ArrowUp' || e.key === 'ArrowRight') onChange(fit(value + by));
    else if (e.key === 'ArrowDown' || e.key === 'ArrowLeft') onChange(fit(value - by));
    else if (e.key === 'Home' && reset !== undefined) onChange(reset);
    else if (e.key === 'Enter') begin(shown <= -100 ? '' : String(Number(shown.toFixed(digits))));
    else if (/^[-−+.,\d]$/.test(e.key)) begin(e.key, true);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const commit = () => {
    if (!cancelled.current && typing !== null && typing.trim() !== '') {
      const typed = readFigure(typing, unit);
      // Minus infinity is what the lowest value of a level is called.
      const value = typed === -Infinity && min <= -100 ? min : typed;
      const stays = `It stays at ${text}${unit ? ` ${unit}` : ''}.`;
      if (Number.isNaN(value)) toast.error(`"${typing.trim()}" is no figure for ${label}. ${stays}`);
      else if (value < min || value > max)
        toast.error(
          `${label} goes from ${min} to ${max}${unit ? ` ${unit}` : ''}; ${typing.trim()} is beyond it. ${stays}`,
        );
      else onChange(value);
    }
    cancelled.current = false;
    setTyping(null);
  };

  if (typing !== null) {
    return (
      <input
        autoFocus
        aria-label={label}
        value={typing}
        onFocus={(e) => (fresh.current ? e.target.setSelectionRange(99, 99) : e.target.select())}
        className={clsx('figure rounded-sm border border-brass bg-ground px-1 text-right outline-none', className)}
        style={{ width: `${Math.max(6, text.length + unit.length + 2)}ch` }}
        onChange={(e) => setTyping(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Escape') cancelled.current = true;
          if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
        }}
      />
    );
  }
  return (
    <span
      role="spinbutton"
      data-action={action}
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuenow={shown}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuetext={`${text} ${unit}`}
      aria-disabled={disabled}
      title={`${label}: drag, arrow keys or type${reset === undefined ? '' : `; double-click for ${reset} ${unit}`}`}
      className={clsx(
        'figure inline-block cursor-ew-resize touch-none select-none whitespace-nowrap rounded-sm border border-transparent px-1 text-right hover:border-line',
        disabled && 'opacity-50',
        className,
      )}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      onKeyDown={keys}
      onDoubleClick={() => (reset === undefined ? begin(String(value)) : onChange(reset))}
    >
      {text}
      {unit && <span className="ml-1 text-quiet">{unit}</span>}
    </span>
  );
}
