import { useState } from 'react';

/** A port or a line, typed; empty: none. */
export function WholeField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null;
  onChange: (value: number | null) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const done = () => {
    if (text === null) return;
    const typed = text.trim() === '' ? null : Number(text);
    setText(null);
    if (typed !== value && (typed === null || Number.isInteger(typed))) onChange(typed);
  };
  return (
    <input
      aria-label={label}
      inputMode="numeric"
      placeholder="–"
      className="figure field h-6 w-11 text-right"
      value={text ?? value ?? ''}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value.replace(/[^\d]/g, '').slice(0, 3))}
      onBlur={done}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setText(null);
      }}
    />
  );
}
