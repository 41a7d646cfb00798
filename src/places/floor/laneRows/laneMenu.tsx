'use client';
import { clsx } from 'clsx';
import { ChartSpline } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { toast } from 'sonner';
import { edit, useDoc, useDocPart, docNow } from '@/client';
import { CLICK_LANE, fadeOutEdits, laneChoices, type Bus, type Track } from '@/core/session';
import { showLane, toggleLanes, useLanes } from '@/parts';

/** Shows the lanes of a track below it, or hides them; a count where there are some. */
export function LanesToggle({ owner, name }: { owner: string; name: string }) {
  const count = useDocPart((doc) => Object.values(doc.lanes).filter((l) => l.target.node === owner).length);
  const open = useLanes((s) => s.open.has(owner));
  return (
    <button
      className={clsx(
        'small flex items-center gap-0.5',
        count > 0 || open ? 'text-brass' : 'text-quiet opacity-0 group-hover:opacity-100 focus-visible:opacity-100',
      )}
      aria-expanded={open}
      aria-label={`Lanes of ${name}`}
      title={open ? 'Hide its lanes' : 'Show its lanes: values that follow the timeline'}
      onClick={() => toggleLanes(docNow(), owner)}
    >
      {count > 0 && <span className="figure">{count}</span>}
      <ChartSpline size={13} />
    </button>
  );
}

/** Seconds of a fade at the end. */
const FADES = [2, 4, 8];

/** Shows the lane of anything that can follow the timeline. */
export function LaneMenu() {
  const doc = useDoc('buses', 'tracks');
  const fade = (seconds: number) => {
    try {
      edit(...fadeOutEdits(docNow(), seconds));
      for (const b of doc.buses) if (b.kind === 'stem') showLane({ node: b.id, param: 'level' });
    } catch (error) {
      toast.error(`The range is shorter than ${seconds} s; nothing was changed. (${(error as Error).message})`);
    }
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn btn-bare">
        <ChartSpline size={14} /> Lane
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="pop max-h-90 min-w-55 overflow-auto p-1" align="start" sideOffset={4}>
          {FADES.map((s) => (
            <DropdownMenu.Item key={s} className="menu-item" onSelect={() => fade(s)}>
              Fade all stems at the end, {s} s
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 border-t" />
          {[...doc.buses, ...doc.tracks].map((n) => (
            <Choices key={n.id} node={n} />
          ))}
          <DropdownMenu.Item className="menu-item" onSelect={() => showLane(CLICK_LANE.target)}>
            {CLICK_LANE.name}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Choices({ node }: { node: Track | Bus }) {
  const doc = useDoc();
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className="menu-item">
        {node.name} <span className="ml-auto pl-4 text-quiet">›</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal>
        <DropdownMenu.SubContent className="pop max-h-90 overflow-auto p-1">
          {laneChoices(doc, node).map((c) => (
            <DropdownMenu.Item key={c.name} className="menu-item" onSelect={() => showLane(c.target)}>
              {c.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  );
}
