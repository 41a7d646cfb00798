'use client';
import { clsx } from 'clsx';
import { useId, useRef, useState, type ReactNode, type SyntheticEvent } from 'react';
import { ownKey } from '@/client';
import { ChoiceList, type ChoiceOption } from './choiceList';

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly ChoiceOption<T>[];
  onChange: (value: T) => void;
  /** How it stands: a word of a sentence, a framed field, or bare. */
  look?: 'word' | 'field' | 'bare';
  className?: string;
  children?: ReactNode;
  /** What the search for actions calls it by. */
  action?: string;
}

const LOOKS = {
  word: 'border-b-[1.5px] border-brass font-[600] leading-tight hover:text-brass',
  field: 'field opens inline-flex items-center justify-between gap-2 text-left',
  bare: 'opens inline-flex items-center gap-1 whitespace-nowrap rounded-sm px-1 hover:text-brass',
};

const OPENING = [' ', 'Enter', 'ArrowUp', 'ArrowDown'];

/** What happens in the list, which lies elsewhere in the page, comes by here as well. */
const within = ({ currentTarget, target }: SyntheticEvent): boolean => currentTarget.contains(target as Node);

/**
 * One of a list. Closed it is a plain button, since a page holds hundreds of them: all that a list needs is made when it
 * opens.
 */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  look = 'field',
  className = '',
  children,
  action,
}: ChoiceProps<T>) {
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  // A mouse opens it as it goes down; a finger may be scrolling until it is lifted, and a label presses without either.
  const pressedBy = useRef('');
  const id = useId();
  return (
    <button
      ref={button}
      type="button"
      role="combobox"
      aria-label={label}
      aria-expanded={open}
      aria-controls={open ? id : undefined}
      title={label}
      data-action={action}
      className={clsx('relative', LOOKS[look], className)}
      onPointerDown={(e) => {
        if (!within(e)) return;
        pressedBy.current = e.pointerType;
        if (e.pointerType !== 'mouse' || e.button !== 0 || e.ctrlKey) return;
        setOpen(true);
        // The focus is the list's.
        e.preventDefault();
      }}
      onClick={(e) => {
        if (!within(e)) return;
        if (pressedBy.current !== 'mouse') setOpen(true);
        pressedBy.current = '';
      }}
      onKeyDown={(e) => {
        if (!OPENING.includes(e.key) || !within(e)) return;
        // Space plays after a click, also after one on a list.
        if (e.key === ' ' && !ownKey(e.currentTarget, e)) return;
        setOpen(true);
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      <span>{children ?? options.find((o) => o.value === value)?.label ?? value}</span>
      {open && (
        <ChoiceList
          {...{ id, value, options, onChange }}
          onClose={() => {
            pressedBy.current = '';
            setOpen(false);
          }}
          onClosed={() => button.current?.focus({ preventScroll: true })}
        />
      )}
    </button>
  );
}
