'use client';
import { pathFrom } from '@/core/paths';
import { Popover } from 'radix-ui';
import { edit, useDoc } from '@/client';
import { MONITOR, referenceOf } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { Choice } from '@/parts';

const WIDTHS: LayoutId[] = ['mono', 'stereo', 'lcr', 'quad', '5.0', '5.1', '7.1'];

/** Words of the format sentence: where new tracks of each width go by themselves. */
export function DefaultDestinations() {
  const doc = useDoc();
  const set = Object.entries(doc.destinations) as [LayoutId, string][];
  const name = (id: string) => (id === MONITOR ? 'the monitor' : (doc.buses.find((b) => b.id === id)?.name ?? id));
  const reference = referenceOf(doc)?.id;
  const strays = set.some(([, to]) => !pathFrom(doc, to).some((b) => b.id === reference));
  const text =
    set.length === 0
      ? 'nowhere by themselves'
      : set.length === 1
        ? `to ${name(set[0]![1])} when ${layoutOf(set[0]![0]).name}`
        : `to the default of their width`;
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label="Default destinations"
        data-action="brief.destinations"
        className={`border-b-[1.5px] font-[600] leading-tight hover:text-brass ${strays ? 'border-warn text-warn' : 'border-brass'}`}
      >
        {text}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="pop w-[330px] p-3" sideOffset={4} align="start" aria-label="Default destinations">
          <p className="small mb-2 text-quiet">
            A new track of a width goes here by itself. What passes by {referenceOf(doc)?.name ?? 'the reference'} is
            heard, but not printed.
          </p>
          {WIDTHS.map((w) => (
            <div key={w} className="flex h-[28px] items-center justify-between border-b">
              <span>{layoutOf(w).name}</span>
              <Choice
                label={`Default destination of ${layoutOf(w).name}`}
                look="bare"
                value={doc.destinations[w] ?? 'none'}
                options={[
                  { value: 'none', label: 'nowhere' },
                  ...doc.buses.map((b) => ({ value: b.id, label: b.name })),
                  { value: MONITOR, label: 'monitor', note: 'passes by the reference' },
                ]}
                onChange={(to) =>
                  edit({ type: 'setDefaultDestination', layout: w, destination: to === 'none' ? null : to })
                }
              />
            </div>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
