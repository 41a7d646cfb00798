'use client';
import { ToggleGroup } from 'radix-ui';

interface SegmentsProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange: (value: T) => void;
  /** What the search for actions calls it by; each choice by this and its value. */
  action?: string;
}

/** One of a few, all seen. */
export function Segments<T extends string>({ label, value, options, onChange, action }: SegmentsProps<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      data-action={action}
      value={value}
      onValueChange={(v) => v && onChange(v as T)}
      className="inline-flex w-max shrink-0 overflow-hidden rounded-md border"
    >
      {options.map((o) => (
        <ToggleGroup.Item
          key={o.value}
          value={o.value}
          data-action={action && `${action}.${o.value}`}
          className="small px-2.5 py-1 text-quiet focus-visible:-outline-offset-2 data-[state=on]:bg-raised data-[state=on]:text-text"
        >
          {o.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
