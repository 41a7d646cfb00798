'use client';
import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';
import { keyText } from '@/client';

/** What a control does, and its key. */
export function Tip({ text, keys, children }: { text: string; keys?: string; children: ReactNode }) {
  return (
    <Tooltip.Root delayDuration={500}>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={6} className="pop small z-70 flex items-center gap-2 px-2.5 py-1.5">
          {text}
          {keys && <kbd className="figure rounded-sm border px-1 text-quiet">{keyText(keys)}</kbd>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export const TipProvider = Tooltip.Provider;
