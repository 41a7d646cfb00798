'use client';
import { clsx } from 'clsx';
import { pathFrom } from '@/core/paths';
import { Popover } from 'radix-ui';
import { edit, useDoc, useLayouts } from '@/client';
import { MONITOR, referenceOf } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { Choice } from '@/parts';

/** Words of the format sentence: where new tracks of each width go by themselves. */
export function DefaultDestinations() {
  const doc = useDoc();
  const layouts = useLayouts();
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
        className={clsx(
          'border-b-[1.5px] font-[600] leading-tight hover:text-brass',
          strays ? 'border-warn text-warn' : 'border-brass',
        )}
      >
        {text}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="pop max-h-(--radix-popover-content-available-height) w-82.5 overflow-y-auto p-3"
          sideOffset={4}
          align="start"
          aria-label="Default destinations"
        >
          <p className="small mb-2 text-quiet">
            A new track of a width goes here by itself. What passes by {referenceOf(doc)?.name ?? 'the reference'} is
            heard, but not printed.
          </p>
          {layouts.map(({ id: w, name: width }) => (
            <div key={w} className="flex h-7 items-center justify-between border-b">
              <span>{width}</span>
              <Choice
                label={`Default destination of ${width}`}
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
