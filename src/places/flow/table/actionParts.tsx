'use client';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { edit } from '@/client';
import { EditRefused, type Bus, type EditJson, type Track } from '@/core/session';
import { parseNumber } from '@/core/units';

export type Rows = readonly (Track | Bus)[];

/** Makes edits of rows as one step of undo; tells what is wrong where they cannot be. */
export function make(edits: () => EditJson[], none: string): boolean {
  try {
    const list = edits();
    if (list.length > 0) return edit(...list);
    toast.message(none, { id: 'none' });
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    toast.error(error.message);
  }
  return false;
}

export function Pop({ label, children }: { label: string; children: (close: () => void) => ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="btn">{label}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="pop flex w-75 flex-col gap-2 p-3" aria-label={label}>
          {children(() => setOpen(false))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

export function Figure({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) {
  return (
    <input
      aria-label={label}
      className="field figure text-right"
      inputMode="decimal"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}

/** A figure as it was typed; null, and the user is told, where it is none. */
export function read(text: string): number | null {
  const value = parseNumber(text);
  if (Number.isNaN(value)) toast.error(`"${text}" is no figure. Nothing was changed.`);
  return Number.isNaN(value) ? null : value;
}
