'use client';
import { Plus, X } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { edit, useDoc } from '@/client';
import { laneChoices, laneKey, laneName, type Bus, type Track } from '@/core/session';
import { hideLane, LaneView, lanesShown, showLane, useLanes } from '@/parts';

/** Pixels of the inspector. */
const WIDTH = 284;
const HEIGHT = 46;

/** What of a track or bus follows the timeline, over the whole range; drawn here or on the Floor. */
export function LaneList({ node }: { node: Track | Bus }) {
  const doc = useDoc();
  const state = useLanes();
  // Here all of them are shown, whether the Floor shows them or not.
  const targets = lanesShown(doc, { ...state, open: new Set([node.id]) }, node.id);
  const { start, end } = doc.range;
  return (
    <>
      <h4 className="mb-1 mt-3 flex items-center justify-between font-[580]">
        Lanes
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="btn btn-bare -mr-2" aria-label={`New lane of ${node.name}`}>
            <Plus size={14} /> Lane
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={4} className="pop max-h-80 overflow-auto p-1">
              {laneChoices(doc, node).map((c) => (
                <DropdownMenu.Item key={c.name} className="menu-item" onSelect={() => showLane(c.target)}>
                  {c.name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </h4>
      {targets.length === 0 && <p className="small text-quiet">Nothing of it follows the timeline.</p>}
      {targets.map((target) => {
        const key = laneKey(target);
        const lane = doc.lanes[key];
        const name = laneName(doc, target);
        return (
          <div key={key} className="mb-1">
            <div className="small flex items-center gap-2">
              <span className="flex-1 truncate text-quiet">{name.slice(node.name.length + 2)}</span>
              {lane && (
                <button
                  className="chip"
                  role="switch"
                  aria-checked={lane.on}
                  aria-label={`${name} follows its lane`}
                  onClick={() => edit({ type: 'setLane', target, on: !lane.on })}
                >
                  {lane.on ? 'on' : 'off'}
                </button>
              )}
              <button
                className="btn btn-bare px-1"
                aria-label={`Remove the lane of ${name}`}
                onClick={() => {
                  if (lane) edit({ type: 'removeLane', target });
                  hideLane(target);
                }}
              >
                <X size={13} />
              </button>
            </div>
            <div className="overflow-hidden rounded-sm bg-ground">
              <LaneView
                target={target}
                width={WIDTH}
                height={HEIGHT}
                zoom={Math.max(1, end - start) / WIDTH}
                from={start}
              />
            </div>
          </div>
        );
      })}
    </>
  );
}
