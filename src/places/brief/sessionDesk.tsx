'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Copy, Download, RotateCcw, Trash2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { ask, edit, useSession } from '@/client';
import type { SessionFacts } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { formatBytes, formatDuration } from '@/core/units';
import { AskFirst, Dialog, TextField } from '@/parts';
import { FreeSpace } from './freeSpace';

const day = (iso: string): string =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

/** All sessions of this machine: opened, called otherwise, duplicated, handed over, removed and brought back. */
export function SessionDesk({ onClose }: { onClose: () => void }) {
  const here = useSession((s) => s.id);
  const router = useRouter();
  const queries = useQueryClient();
  const { data: all = [] } = useQuery({ queryKey: ['desk'], queryFn: () => ask<SessionFacts[]>('/api/desk') });
  const again = () => queries.invalidateQueries({ queryKey: ['desk'] });
  const work = async (job: () => Promise<unknown>, done?: string) => {
    try {
      await job();
      if (done) toast.success(done);
    } catch (error) {
      toast.error((error as Error).message, { duration: 10_000 });
    }
    await again();
  };
  const rename = (s: SessionFacts, name: string) =>
    s.id === here
      ? (edit({ type: 'setSession', name }), setTimeout(() => void again(), 300))
      : work(async () => {
          const { revision } = await ask<{ revision: number }>(`/api/sessions/${s.id}`);
          await ask(`/api/sessions/${s.id}/edits`, {
            id: `desk-${Date.now()}`,
            base: revision,
            edits: [{ type: 'setSession', name }],
          });
        });
  const kept = all.filter((s) => s.removedAt === null);
  const bin = all.filter((s) => s.removedAt !== null);
  return (
    <Dialog
      open
      onClose={onClose}
      broad
      title="Sessions"
      note="All of this machine, the one that was changed last first."
    >
      <table className="w-full" data-testid="desk">
        <thead>
          <tr className="small border-b text-left text-quiet [&_th]:py-1 [&_th]:pr-3 [&_th]:font-[420]">
            <th>name</th>
            <th>format</th>
            <th className="text-right">tracks</th>
            <th className="text-right">length</th>
            <th className="text-right">size</th>
            <th>changed</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {kept.map((s) => (
            <tr key={s.id} className="h-8 border-b [&_td]:pr-3" data-session={s.id}>
              <td className="font-[560]" title={s.folder}>
                <TextField
                  label={`Name of ${s.name}`}
                  value={s.name}
                  maxLength={80}
                  onChange={(name) => void rename(s, name)}
                />
              </td>
              <td className="small whitespace-nowrap text-quiet">
                {s.sampleRate / 1000} kHz, {s.wordLength} bit, {s.frameRate} fps, {layoutOf(s.layout).name}
              </td>
              <td className="figure text-right">{s.tracks}</td>
              <td className="figure text-right">{formatDuration(s.seconds)}</td>
              <td className="figure whitespace-nowrap text-right">{formatBytes(s.bytes)}</td>
              <td className="small whitespace-nowrap text-quiet">{day(s.changedAt)}</td>
              <td>
                <span className="flex items-center justify-end gap-1">
                  <AskFirst
                    act="Remove it"
                    leave="Keep it"
                    onAct={() =>
                      void work(
                        () => ask(`/api/sessions/${s.id}/bin`, {}),
                        `${s.name} is in the bin; it can be brought back for 30 days.`,
                      )
                    }
                  >
                    {(askFirst) => (
                      <>
                        <button
                          className="btn"
                          disabled={s.id === here}
                          onClick={() => {
                            onClose();
                            router.push(`/s/${s.id}/brief`);
                          }}
                        >
                          {s.id === here ? 'Open' : 'Open it'}
                        </button>
                        <Act
                          label={`Duplicate ${s.name}`}
                          icon={<Copy size={13} />}
                          onClick={() =>
                            void work(
                              () => ask(`/api/sessions/${s.id}/duplicate`, { name: `${s.name}, copy`.slice(0, 80) }),
                              `${s.name} is there twice.`,
                            )
                          }
                        />
                        <FreeSpace session={s.id} name={s.name} onFreed={() => void again()} />
                        <Act
                          label={`${s.name} as one archive`}
                          icon={<Download size={13} />}
                          onClick={() => window.location.assign(`/api/sessions/${s.id}/archive`)}
                        />
                        <Act
                          label={s.id === here ? 'The session that is open is not removed' : `Remove ${s.name}`}
                          icon={<Trash2 size={13} />}
                          disabled={s.id === here}
                          onClick={askFirst}
                        />
                      </>
                    )}
                  </AskFirst>
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {bin.length > 0 && (
        <>
          <h3 className="mb-1 mt-4 font-[600]">In the bin</h3>
          <ul aria-label="In the bin">
            {bin.map((s) => (
              <li key={s.id} className="flex items-center gap-3 border-b py-1">
                <span className="flex-1">{s.name}</span>
                <span className="small text-quiet">
                  {formatBytes(s.bytes)}, goes for good {day(s.goesAt!)}
                </span>
                <button
                  className="btn"
                  onClick={() =>
                    void work(() => ask(`/api/sessions/${s.id}/bin`, undefined, 'DELETE'), `${s.name} is back.`)
                  }
                >
                  <RotateCcw size={13} /> Bring it back
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Dialog>
  );
}

function Act({
  label,
  icon,
  onClick,
  disabled,
}: {
  label: string;
  icon: React.ReactNode;
  onClick: () => void;
  disabled?: boolean;
}) {
  return (
    <button className="btn btn-bare px-1.5" aria-label={label} title={label} disabled={disabled} onClick={onClick}>
      {icon}
    </button>
  );
}
