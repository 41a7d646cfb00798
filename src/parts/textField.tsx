'use client';
import { clsx } from 'clsx';
import { useRef, useState } from 'react';

interface TextFieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  className?: string;
  title?: string;
  placeholder?: string;
  maxLength?: number;
  /** An emptied field goes back to what it was, unless empty is an answer. */
  mayBeEmpty?: boolean;
  /** What the search for actions calls it by. */
  action?: string;
}

/** A word that can be written over: Enter or leaving takes it, Escape leaves it as it was. */
export function TextField({
  label,
  value,
  onChange,
  className = '',
  title,
  placeholder,
  maxLength = 80,
  mayBeEmpty,
  action,
}: TextFieldProps) {
  const [typing, setTyping] = useState<string | null>(null);
  const dropped = useRef(false);
  const commit = () => {
    const text = typing?.trim() ?? value;
    if (!dropped.current && text !== value && (text || mayBeEmpty)) onChange(text);
    dropped.current = false;
    setTyping(null);
  };
  return (
    <input
      aria-label={label}
      data-action={action}
      title={title ?? label}
      placeholder={placeholder}
      value={typing ?? value}
      maxLength={maxLength}
      spellCheck={false}
      className={clsx(
        'min-w-0 rounded-sm border border-transparent bg-transparent px-1 py-0.5 hover:border-line focus:border-brass focus:outline-none',
        className,
      )}
      onChange={(e) => setTyping(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') dropped.current = true;
        if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
      }}
    />
  );
}
