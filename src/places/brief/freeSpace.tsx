import { useState } from 'react';
import { Eraser } from 'lucide-react';
import { Popover } from 'radix-ui';
import { toast } from 'sonner';
import { ask } from '@/client';
import { formatBytes } from '@/core/units';
import type { Unused } from '@/core/wire';

/** Frees what lies in a session's folder and is used by nothing of it, after saying how much that is. */
export function FreeSpace({ session, name, onFreed }: { session: string; name: string; onFreed: () => void }) {
  const [found, setFound] = useState<Unused | null>(null);
  const url = `/api/sessions/${session}/unused`;
  const tell = (error: Error) => void toast.error(error.message, { duration: 10_000 });
  const look = () =>
    ask<Unused>(url).then(
      (unused) => (unused.files.length === 0 ? void toast.message(`Every file of ${name} is used.`) : setFound(unused)),
      tell,
    );
  const free = () => {
    setFound(null);
    ask<Unused>(url, undefined, 'DELETE').then(({ bytes }) => {
      toast.success(`${formatBytes(bytes)} of ${name} are free.`);
      onFreed();
    }, tell);
  };
  const along = found && [
    ...(found.steps > 0 ? [found.steps === 1 ? '1 step of undo' : `${found.steps} steps of undo`] : []),
    ...(found.versions > 0
      ? [found.versions === 1 ? '1 automatic version' : `${found.versions} automatic versions`]
      : []),
  ];
  return (
    <Popover.Root open={found !== null} onOpenChange={(open) => !open && setFound(null)}>
      <Popover.Anchor asChild>
        <button
          className="btn btn-bare px-1.5"
          aria-label={`Free what ${name} does not use`}
          title="Looks for files that neither the session nor a version or print of it uses, and asks before they go"
          onClick={() => void look()}
        >
          <Eraser size={13} />
        </button>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={6} className="pop w-80 bg-panel p-4" aria-label="Unused files">
          {found && (
            <>
              <h3 className="title mb-1">
                {found.files.length === 1 ? '1 file' : `${found.files.length} files`} that nothing uses,{' '}
                {formatBytes(found.bytes)}
              </h3>
              <p className="small text-quiet" title={found.files.slice(0, 30).join('\n')}>
                {found.files.slice(0, 3).join(', ')}
                {found.files.length > 3 && ` and ${found.files.length - 3} more`}
              </p>
              {along!.length > 0 && (
                <p className="mt-2">
                  With {found.files.length === 1 ? 'it' : 'them'} go {along!.join(' and ')}.
                </p>
              )}
              <div className="mt-3 flex justify-end gap-2">
                <button className="btn btn-bare" autoFocus onClick={() => setFound(null)}>
                  Keep {found.files.length === 1 ? 'it' : 'them'}
                </button>
                <button className="btn text-stop" onClick={free}>
                  Remove {found.files.length === 1 ? 'it' : 'them'} for good
                </button>
              </div>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
