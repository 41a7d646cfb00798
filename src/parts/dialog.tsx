'use client';
import { clsx } from 'clsx';
import { X } from 'lucide-react';
import { Dialog as Radix } from 'radix-ui';
import { useLayoutEffect, useRef, type ReactNode, type RefObject } from 'react';
import { focusBefore, keyHeld } from './focusHistory';

interface DialogProps {
  open: boolean;
  onClose: () => void;
  title: string;
  note?: string;
  children: ReactNode;
  wide?: boolean;
  /** As broad as a table needs. */
  broad?: boolean;
}

/** A question in front of everything; Escape leaves it. */
export function Dialog({ open, onClose, title, note, children, wide, broad }: DialogProps) {
  const content = useRef<HTMLDivElement>(null);
  const pressed = useRef(false);
  return (
    <Radix.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-50 bg-black/55" />
        <Radix.Content
          aria-describedby={undefined}
          ref={content}
          onClickCapture={(e) => {
            if (!pressed.current || e.detail !== 0) return;
            e.preventDefault();
            e.stopPropagation();
          }}
          // A menu that opened it is gone: the focus goes back to what opened the menu.
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            focusBefore(content.current)?.focus();
          }}
          className={clsx(
            'pop fixed left-1/2 top-1/2 z-50 max-h-[86vh] -translate-x-1/2 -translate-y-1/2 overflow-auto bg-panel p-5',
            broad ? 'w-260 max-w-[94vw]' : wide ? 'w-170' : 'w-115',
          )}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Radix.Title className="text-lead font-[620]">{title}</Radix.Title>
              {note && <p className="small mt-0.5 text-quiet">{note}</p>}
            </div>
            <Radix.Close aria-label="Close" className="btn btn-bare -mr-2 -mt-1 px-2">
              <X size={15} />
            </Radix.Close>
          </div>
          {children}
          <Arrival pressed={pressed} />
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** What happens as a dialog arrives; the last of its children, so that what takes the focus there has it already. */
function Arrival({ pressed }: { pressed: RefObject<boolean> }) {
  // The key that opened it must not answer it as well: it is let go first.
  useLayoutEffect(() => {
    if (!keyHeld()) return;
    pressed.current = true;
    const letGo = () => void (pressed.current = false);
    document.addEventListener('keyup', letGo, { once: true, capture: true });
    return () => {
      letGo();
      document.removeEventListener('keyup', letGo, true);
    };
  }, [pressed]);
  // A list that opened it gives the focus back to its button as it closes, which lies behind the dialog by then.
  useLayoutEffect(() => {
    const taken = document.activeElement;
    if (!(taken instanceof HTMLElement) || !taken.closest('[role="dialog"]')) return;
    const timer = setTimeout(() => {
      taken.blur();
      taken.focus();
    });
    return () => clearTimeout(timer);
  }, []);
  return null;
}
