'use client';
import { Check } from 'lucide-react';
import { Select } from 'radix-ui';
import type { ReactNode } from 'react';
import { pageNonce } from './pageNonce';

export interface ChoiceOption<T extends string> {
  value: T;
  label: ReactNode;
  note?: string;
  disabled?: boolean;
}

/** The open list of a choice, below the button that it stands in. */
export function ChoiceList<T extends string>({
  id,
  value,
  options,
  onChange,
  onClose,
  onClosed,
}: {
  id: string;
  value: T;
  options: readonly ChoiceOption<T>[];
  onChange: (value: T) => void;
  onClose: () => void;
  /** The list is gone; the focus is nowhere. */
  onClosed: () => void;
}) {
  return (
    <Select.Root open value={value} onValueChange={(v) => onChange(v as T)} onOpenChange={(open) => !open && onClose()}>
      {/* What the list hangs on; what one presses is the button around it. */}
      <Select.Trigger asChild aria-hidden>
        <span className="pointer-events-none absolute inset-0" />
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          id={id}
          position="popper"
          sideOffset={5}
          className="pop max-h-80 min-w-40 overflow-auto p-1"
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            onClosed();
          }}
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
    </Select.Root>
  );
}
