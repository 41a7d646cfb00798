'use client';
import { clsx } from 'clsx';
import { Diff, Ear } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, edit } from '@/client';
import type { FileChange, PrintFacts } from '@/core/print';
import type { EditJson } from '@/core/session';
import { formatDb } from '@/core/units';
import { Dialog } from '@/parts';

/** A figure before and after; one where both are written alike. */
function Change({ then, now }: { then: string | null; now: string | null }) {
  if (then === now || then === null || now === null)
    return <td className="figure text-right text-quiet">{now ?? then}</td>;
  return (
    <td className="figure whitespace-nowrap text-right">
      <span className="text-quiet">{then} → </span>
      {now}
    </td>
  );
}

const differenceOf = (c: FileChange): string =>
  c.difference === null
    ? (c.why ?? '')
    : c.difference === -Infinity
      ? 'equal to the bit'
      : `${formatDb(c.difference)} dBFS`;

/** What changed from another print to the one that is shown, in figures and by ear. */
export function Compare({ print, others }: { print: PrintFacts; others: readonly PrintFacts[] }) {
  const [shown, setShown] = useState<{ with: PrintFacts; changes: FileChange[] } | null>(null);
  const [busy, setBusy] = useState(false);
  if (others.length === 0) return null;
  const work = async (job: () => Promise<void>) => {
    setBusy(true);
    try {
      await job();
    } catch (error) {
      toast.error((error as Error).message, { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  const compare = (other: PrintFacts) =>
    work(async () => {
      const said = await ask<FileChange[]>(`/api/prints/${print.id}/compare`, { with: other.id });
      setShown({ with: other, changes: said });
    });
  const hear = () =>
    work(async () => {
      edit(await ask<EditJson>(`/api/prints/${print.id}/compare/difference`, { with: shown!.with.id }));
      toast.success('The difference lies on a muted track; solo it to hear it alone.');
      setShown(null);
    });
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="btn px-2"
          disabled={busy}
          aria-label="Compare with another print"
          title="Compare with another print"
        >
          <Diff size={14} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop max-h-80 min-w-47.5 overflow-auto p-1" sideOffset={4} align="end">
            {others.map((o) => (
              <DropdownMenu.Item key={o.id} className="menu-item" onSelect={() => void compare(o)}>
                with print {o.version}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog
        open={shown !== null}
        onClose={() => setShown(null)}
        wide
        title={`Print ${print.version} against print ${shown?.with.version ?? ''}`}
        note="Each file as it was, and as it is; the difference is the peak of what is left where one is taken from the other."
      >
        <div className="max-h-105 overflow-y-auto">
          <table className="w-full" data-testid="compared">
            <thead>
              <tr className="small border-b text-left text-quiet [&_th]:py-1 [&_th]:pr-3 [&_th]:font-[420]">
                <th>file</th>
                <th className="text-right">LUFS</th>
                <th className="text-right">dBTP</th>
                <th className="text-right">seconds</th>
                <th className="pl-3">difference</th>
              </tr>
            </thead>
            <tbody>
              {shown?.changes.map((c) => {
                const [a, b] = [c.before?.facts, c.after?.facts];
                return (
                  <tr
                    key={`${c.range}/${c.what}/${c.after?.file ?? c.before?.file}`}
                    className="h-7.25 border-b [&_td]:pr-3"
                  >
                    <td className="font-[560]">
                      {c.what}
                      {c.range && <span className="small text-quiet">, {c.range}</span>}
                    </td>
                    <Change then={a ? formatDb(a.integrated) : null} now={b ? formatDb(b.integrated) : null} />
                    <Change then={a ? formatDb(a.truePeak) : null} now={b ? formatDb(b.truePeak) : null} />
                    <Change then={a ? a.seconds.toFixed(2) : null} now={b ? b.seconds.toFixed(2) : null} />
                    <td className={clsx('small pl-3', c.difference === -Infinity && 'text-fine')}>
                      {differenceOf(c)}
                      {c.place && (
                        <span className="block text-quiet">
                          most at {c.place.seconds.toFixed(2)} s in {c.place.speaker}
                        </span>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        <div className="mt-4 flex justify-end">
          <button className="btn" disabled={busy} onClick={() => void hear()}>
            <Ear size={14} /> {busy ? 'Taking apart…' : 'Bring the difference in'}
          </button>
        </div>
      </Dialog>
    </>
  );
}
