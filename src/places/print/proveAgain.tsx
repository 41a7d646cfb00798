import { clsx } from 'clsx';
import { ShieldCheck } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { Dialog, FileButton } from '@/parts';

interface Verified {
  good: boolean;
  what: string;
  found: string;
}

/** An archive that was handed over is proved again: by choosing it, or by letting it go on the button. */
export function ProveAgain() {
  const [busy, setBusy] = useState(false);
  const [shown, setShown] = useState<{ name: string; found: Verified[] } | null>(null);
  const prove = async (archive: File) => {
    setBusy(true);
    try {
      const answer = await fetch('/api/verify', { method: 'POST', body: archive });
      const said = (await answer.json()) as { found?: Verified[]; message?: string };
      if (!said.found) throw new Error(said.message ?? 'The server did not answer.');
      setShown({ name: archive.name, found: said.found });
    } catch (error) {
      toast.error(`${archive.name}: ${(error as Error).message}`, { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  const wrong = shown?.found.filter((f) => !f.good).length ?? 0;
  return (
    <>
      <FileButton
        label="Archive to prove again"
        accept=".zip,application/zip"
        className="btn btn-bare -ml-2 mt-3"
        disabled={busy}
        title="Choose an archive of a print, or drop it here: its checksums, figures and sums are looked at again"
        onFile={(archive) => void prove(archive)}
      >
        <ShieldCheck size={14} /> {busy ? 'Looking at every file…' : 'Prove an archive again…'}
      </FileButton>
      <Dialog
        open={shown !== null}
        onClose={() => setShown(null)}
        title={wrong === 0 ? 'All of it is as it was proven' : `${wrong} not as proven`}
        note={shown?.name}
      >
        <ul className="max-h-95 overflow-y-auto" aria-label="What was looked at again">
          {shown?.found.map((f) => (
            <li key={`${f.what} ${f.found}`} className="flex items-baseline gap-2 border-b py-1.5">
              <span className={clsx('size-1.75 shrink-0 rounded-full', f.good ? 'bg-fine' : 'bg-stop')} />
              <span className="min-w-0 flex-1">
                <span className="figure break-all">{f.what}</span>
                <span className={clsx('small block', f.good ? 'text-quiet' : 'text-stop')}>{f.found}</span>
              </span>
            </li>
          ))}
        </ul>
      </Dialog>
    </>
  );
}
