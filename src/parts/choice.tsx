'use client';
import { Check, ChevronDown } from 'lucide-react';
import { Select } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { pageNonce } from './pageNonce';

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; label: ReactNode; note?: string; disabled?: boolean }[];
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
  field: 'field inline-flex items-center justify-between gap-2 text-left',
  bare: 'inline-flex items-center gap-1 whitespace-nowrap rounded-[4px] px-1 hover:text-brass',
};

/** One of a list. */
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
  return (
    <Select.Root value={value} onValueChange={(v) => onChange(v as T)} open={open} onOpenChange={setOpen}>
      <Select.Trigger
        aria-label={label}
        title={label}
        data-action={action}
        className={`${LOOKS[look]} ${className}`}
        onKeyDown={(e) => {
          // A letter is a key of the application, not a search in a list that is closed.
          if (e.key.length === 1 && e.key !== ' ') e.preventDefault();
        }}
      >
        <Select.Value>{children ?? options.find((o) => o.value === value)?.label ?? value}</Select.Value>
        {look !== 'word' && <ChevronDown size={13} className="shrink-0 text-quiet" />}
      </Select.Trigger>
      {/* A closed list makes its items all the same: a page of a hundred lists would take seconds. */}
      {open && (
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={5}
            className="pop max-h-[320px] min-w-[160px] overflow-auto p-1"
          >
            <Select.Viewport nonce={pageNonce()}>
              {options.map((o) => (
                <Select.Item key={o.value} value={o.value} disabled={o.disabled} className="menu-item">
                  <Select.ItemText>{o.label}</Select.ItemText>
                  {o.note && <span className="small text-quiet">{o.note}</span>}
                  <Select.ItemIndicator className="ml-auto text-brass">
                    <Check size={13} />
                  </Select.ItemIndicator>
                </Select.Item>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      )}
    </Select.Root>
  );
}
