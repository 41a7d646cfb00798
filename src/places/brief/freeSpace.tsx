import { useState } from 'react';
import { Eraser } from 'lucide-react';
import { toast } from 'sonner';
import { ask } from '@/client';
import { formatBytes } from '@/core/units';

interface Unused {
  files: string[];
  bytes: number;
  steps: number;
  versions: number;
}

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
  if (!found)
    return (
      <button
        className="btn btn-bare px-1.5!"
        aria-label={`Free what ${name} does not use`}
        title="Looks for files that neither the session nor a version or print of it uses, and asks before they go"
        onClick={() => void look()}
      >
        <Eraser size={13} />
      </button>
    );
  const { files, bytes, steps, versions } = found;
  const along = [
    ...(steps > 0 ? [steps === 1 ? '1 step of undo' : `${steps} steps of undo`] : []),
    ...(versions > 0 ? [versions === 1 ? '1 automatic version' : `${versions} automatic versions`] : []),
  ];
  return (
    <span
      className="flex items-center gap-1"
      role="group"
      aria-label="Unused files"
      title={files.slice(0, 30).join('\n')}
    >
      <button className="btn text-stop" onClick={free}>
        Remove {files.length === 1 ? '1 unused file' : `${files.length} unused files`}, {formatBytes(bytes)}
        {along.length > 0 && `, with ${along.join(' and ')}`}
      </button>
      <button className="btn btn-bare" autoFocus onClick={() => setFound(null)}>
        Keep them
      </button>
    </span>
  );
}
