'use client';
import { Plus, X } from 'lucide-react';
import { useDoc, useSession } from '@/client';
import { Inspector, Segments } from '@/parts';
import { FlowInspector } from './flowInspector';
import { FlowKeys } from './flowKeys';
import { follow, setFlow, useFlow, wantBus } from './flowState';
import { FlowMap } from './map/flowMap';
import { NewBus } from './newBus';
import { FlowTable } from './table/flowTable';

const LENSES = [
  { value: 'map', label: 'Map' },
  { value: 'table', label: 'Table' },
] as const;

/** Where every sound goes: tracks, buses, references, monitor, printed files. */
export function Flow() {
  const ready = useSession((s) => s.doc !== null);
  if (!ready) return null;
  return <FlowView />;
}

function FlowView() {
  const doc = useDoc('tracks', 'buses');
  const { lens, find, following } = useFlow();
  const followed = [...doc.tracks, ...doc.buses].find((n) => n.id === following);
  return (
    <>
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="flex items-center gap-3 px-4 pb-2 pt-3">
          <Segments label="Lens" value={lens} options={LENSES} onChange={(value) => setFlow({ lens: value })} />
          <input
            className="field w-45"
            type="search"
            placeholder="find a row"
            aria-label="Find a row"
            value={find}
            onChange={(e) => setFlow({ find: e.target.value })}
            onKeyDown={(e) => e.key === 'Escape' && setFlow({ find: '' })}
          />
          {followed ? (
            <button className="chip flex items-center gap-1 text-brass" onClick={() => follow(null)}>
              following {followed.name} <X size={12} aria-label="Show all" />
            </button>
          ) : (
            <span className="small truncate text-quiet">
              {doc.tracks.length} sources, {doc.buses.length} buses
            </span>
          )}
          <button className="btn btn-bare ml-auto whitespace-nowrap" onClick={() => wantBus()}>
            <Plus size={14} /> Bus
          </button>
        </div>
        {lens === 'map' ? <FlowMap /> : <FlowTable />}
      </div>
      {lens === 'map' && (
        <Inspector label="Path audit and selection">
          <FlowInspector />
        </Inspector>
      )}
      <FlowKeys />
      <NewBus />
    </>
  );
}
