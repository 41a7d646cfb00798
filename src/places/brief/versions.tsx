'use client';
import { clsx } from 'clsx';
import { History, Save, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { ask, stored, useSaid, useSession } from '@/client';
import { AskFirst } from '@/parts';
import type { VersionFacts } from '@/core/wire';

const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** Copies of the session's state: by name or made before a risky step; compare in words, go back without loss. */
export function Versions() {
  const id = useSession((s) => s.id)!;
  const [name, setName] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const base = `/api/sessions/${id}/versions`;
  const queries = useQueryClient();
  const list = useSaid<VersionFacts[]>(base) ?? [];
  const again = () => void queries.invalidateQueries({ queryKey: ['said', base] });
  const failed = (error: Error) => toast.error(error.message);
  const keep = useMutation({
    mutationFn: async () => {
      await stored();
      return ask(base, { name: name.trim() || proposed });
    },
    onSuccess: () => {
      setName('');
      again();
    },
    onError: failed,
  });
  const back = useMutation({
    mutationFn: async (v: VersionFacts) => {
      await stored();
      return ask(`${base}/${v.id}`, {});
    },
    onSuccess: (_, v) => {
      toast.success(
        `The session stands as in ${v.name}. What came after is kept as a version; undo brings it back too.`,
      );
      again();
    },
    onError: failed,
  });
  const remove = useMutation({
    mutationFn: (v: VersionFacts) => ask(`${base}/${v.id}`, undefined, 'DELETE'),
    onSuccess: again,
    onError: failed,
  });
  const version = list.find((v) => v.id === chosen) ?? list[0];
  // What has changed since the newest version is what the next one is about.
  const newest = list[0] ? `${base}/${list[0].id}` : null;
  const since = useSaid<{ changes: string[] }>(newest);
  const proposed = (since?.changes ?? []).slice(0, 2).join('; ').slice(0, 80) || 'As it is now';
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-8">
      <section aria-label="Versions kept" className="flex min-h-0 flex-col">
        <form
          className="mb-2 flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            keep.mutate();
          }}
        >
          <input
            aria-label="Name of the version"
            data-action="brief.version"
            className="field flex-1"
            placeholder={proposed}
            title="Without a name of your own it is called after what has changed"
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
            onKeyDown={(e) => e.stopPropagation()}
          />
          <button className="btn" disabled={keep.isPending}>
            <Save size={14} /> Keep this state
          </button>
        </form>
        {list.length === 0 && (
          <p className="small text-quiet">
            None yet. Some are made by themselves, before steps that are hard to see through.
          </p>
        )}
        <ul className="min-h-0 overflow-y-auto">
          {list.map((v) => (
            <li key={v.id} className="group flex h-7.5 items-center gap-3 border-b" data-version={v.name}>
              <button
                className={clsx(
                  'min-w-0 flex-1 truncate text-left',
                  v.id === version?.id && 'font-[600]',
                  v.automatic && 'text-quiet',
                )}
                aria-pressed={v.id === version?.id}
                onClick={() => setChosen(v.id)}
              >
                {v.name}
              </button>
              <span className="small text-quiet">{v.automatic ? 'by itself' : ''}</span>
              <span className="figure small text-quiet">{when(v.at)}</span>
              <AskFirst act="Remove it" leave="Keep it" onAct={() => remove.mutate(v)}>
                {(askFirst) => (
                  <button
                    aria-label={`Remove version ${v.name}`}
                    title="Remove this version"
                    className="text-quiet opacity-0 hover:text-stop focus:opacity-100 group-hover:opacity-100"
                    onClick={askFirst}
                  >
                    <Trash2 size={13} />
                  </button>
                )}
              </AskFirst>
            </li>
          ))}
        </ul>
      </section>
      {version && (
        <section aria-label="What changed" className="flex min-h-0 flex-col">
          <div className="mb-2 flex items-center justify-between gap-3">
            <h3 className="truncate font-[580]">Since {version.name}</h3>
            <button className="btn shrink-0" disabled={back.isPending} onClick={() => back.mutate(version)}>
              <History size={14} /> Go back to it
            </button>
          </div>
          <Changes url={`${base}/${version.id}`} />
        </section>
      )}
    </div>
  );
}

function Changes({ url }: { url: string }) {
  const data = useSaid<{ changes: string[] }>(url);
  if (!data) return null;
  if (data.changes.length === 0) return <p className="small text-quiet">Nothing: the session is as it was then.</p>;
  return (
    <ul className="min-h-0 list-disc overflow-y-auto pl-4">
      {data.changes.map((c) => (
        <li key={c}>{c}</li>
      ))}
    </ul>
  );
}
