'use client';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useDoc } from '@/client';
import { whatOf, type FilesAsked } from '@/core/print';
import { layoutOf } from '@/core/speakers';

/** Files of the next print: which of the brief, and what beside it. */
export interface ChosenFiles {
  /** Of the brief, those that are left out. */
  without: ReadonlySet<string>;
  /** Tracks and buses. */
  beside: ReadonlySet<string>;
}

export const ALL_FILES: ChosenFiles = { without: new Set(), beside: new Set() };

/** What a print is asked for; of what is not in the session any more nothing is left. */
export function askedFiles(
  doc: ReturnType<typeof useDoc>,
  { without, beside }: ChosenFiles,
): FilesAsked & { count: number } {
  const only = doc.deliverables.filter((d) => !without.has(d.id)).map((d) => d.id);
  const nodes = [...doc.tracks, ...doc.buses].filter((n) => beside.has(n.id)).map((n) => n.id);
  return {
    count: only.length + nodes.length,
    ...(only.length < doc.deliverables.length ? { only } : {}),
    ...(nodes.length ? { beside: nodes } : {}),
  };
}

const changed = (set: ReadonlySet<string>, id: string, there: boolean): Set<string> => {
  const next = new Set(set);
  if (there) next.add(id);
  else next.delete(id);
  return next;
};

/** The list behind the print button. */
export function FilesMenu({ chosen, onChange }: { chosen: ChosenFiles; onChange: (next: ChosenFiles) => void }) {
  const doc = useDoc();
  const asked = new Set(doc.deliverables.map((d) => d.bus));
  const beside = [...doc.buses.filter((b) => !asked.has(b.id)), ...doc.tracks.filter((t) => t.print === undefined)];
  return (
    <Popover.Root>
      <Popover.Trigger className="btn px-1.5" aria-label="Which files are printed" title="Which files are printed">
        <ChevronDown size={14} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="pop flex max-h-[70vh] w-80 flex-col overflow-auto p-3"
          aria-label="Which files are printed"
        >
          <Head
            text="Of the brief"
            onAll={(on) =>
              onChange({ ...chosen, without: on ? new Set() : new Set(doc.deliverables.map((d) => d.id)) })
            }
          />
          {doc.deliverables.map((d) => (
            <Line
              key={d.id}
              name={whatOf(doc, d)}
              note={layoutOf(d.layout).name}
              on={!chosen.without.has(d.id)}
              onChange={(on) => onChange({ ...chosen, without: changed(chosen.without, d.id, !on) })}
            />
          ))}
          <Head
            text="Beside it, as they are"
            onAll={(on) => onChange({ ...chosen, beside: on ? new Set(beside.map((n) => n.id)) : new Set() })}
          />
          {beside.map((n) => (
            <Line
              key={n.id}
              name={n.name}
              note={`${'kind' in n ? n.kind : 'track'}, ${layoutOf(n.layout).name}`}
              on={chosen.beside.has(n.id)}
              onChange={(on) => onChange({ ...chosen, beside: changed(chosen.beside, n.id, on) })}
            />
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Head({ text, onAll }: { text: string; onAll: (on: boolean) => void }) {
  return (
    <p className="mb-1 flex items-baseline gap-2 font-[600] [&:not(:first-child)]:mt-3">
      {text}
      <button className="small ml-auto text-quiet hover:text-brass" onClick={() => onAll(true)}>
        all
      </button>
      <button className="small text-quiet hover:text-brass" onClick={() => onAll(false)}>
        none
      </button>
    </p>
  );
}

function Line({
  name,
  note,
  on,
  onChange,
}: {
  name: string;
  note: string;
  on: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <label className="flex items-center gap-2 border-b py-0.5">
      <input type="checkbox" checked={on} onChange={(e) => onChange(e.target.checked)} />
      <span className="min-w-0 flex-1 truncate">{name}</span>
      <span className="small text-quiet">{note}</span>
    </label>
  );
}
