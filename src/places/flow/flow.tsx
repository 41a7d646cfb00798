'use client';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useDoc, useSession } from '@/client';
import { Inspector } from '@/parts';
import { FlowInspector } from './flowInspector';
import { FlowMap } from './flowMap';
import { NewStem } from './newStem';

/** Where every sound goes: tracks, stems, reference, monitor, printed files. */
export function Flow() {
  const ready = useSession((s) => s.doc !== null);
  if (!ready) return null;
  return <FlowView />;
}

function FlowView() {
  const doc = useDoc();
  /** Tracks that wait for the name of their new stem; null: none is being made. */
  const [newFor, setNewFor] = useState<string[] | null>(null);
  return (
    <>
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="flex items-center gap-3 px-4 pb-1 pt-3">
          <h2 className="title">{doc.tracks.length} sources</h2>
          <span className="small text-quiet">
            pull the end of a band to another stem, or choose the destination on the right
          </span>
          <button className="btn btn-bare ml-auto" onClick={() => setNewFor([])}>
            <Plus size={14} /> Stem
          </button>
        </div>
        <FlowMap onNewStem={(track) => setNewFor([track])} />
      </div>
      <Inspector label="Path audit and selection">
        <FlowInspector onNewStem={setNewFor} />
      </Inspector>
      <NewStem tracks={newFor} onDone={() => setNewFor(null)} />
    </>
  );
}
