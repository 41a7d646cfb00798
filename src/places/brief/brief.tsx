'use client';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { create } from 'zustand';
import { useDoc, useSession } from '@/client';
import { Dialog, Segments } from '@/parts';
import { Deliverables } from './deliverables';
import { FormatSentence } from './formatSentence';
import { NewSessionForm } from './newSessionForm';
import { OtherSessions } from './otherSessions';
import { Templates } from './templates';
import { TrackBuilder } from './trackBuilder';
import { TrackRows } from './trackRows';
import { Versions } from './versions';
import { WorkSettings } from './workSettings';

const SHEETS = [
  { value: 'tracks', label: 'Tracks' },
  { value: 'make', label: 'Make tracks' },
  { value: 'work', label: 'Working settings' },
  { value: 'versions', label: 'Versions' },
  { value: 'templates', label: 'Templates' },
] as const;
type Sheet = (typeof SHEETS)[number]['value'];

/** Stays as it was when one comes back to the place. */
const useSheet = create<{ sheet: Sheet | null }>(() => ({ sheet: null }));

/** The order sheet: format, deliverables, and below them tracks, settings, versions or templates. */
export function Brief() {
  const ready = useSession((s) => s.doc !== null);
  if (!ready) return null;
  return <OrderSheet />;
}

function OrderSheet() {
  const doc = useDoc('tracks');
  const [asking, setAsking] = useState(false);
  const sheet = useSheet((s) => s.sheet) ?? (doc.tracks.length ? 'tracks' : 'make');
  return (
    <div className="grid min-w-0 flex-1 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,max-content)_auto_minmax(190px,1fr)] gap-3 px-7 py-4">
      <div className="flex items-start justify-between gap-6">
        <FormatSentence />
        <div className="flex shrink-0 gap-2 pt-1">
          <OtherSessions />
          <button className="btn" data-action="brief.new" onClick={() => setAsking(true)}>
            <Plus size={14} /> New session
          </button>
        </div>
      </div>
      <Deliverables />
      <Segments
        label="Sheet"
        action="brief.sheet"
        value={sheet}
        options={SHEETS}
        onChange={(s) => useSheet.setState({ sheet: s })}
      />
      <div className="flex min-h-0 flex-col" role="region" aria-label={SHEETS.find((s) => s.value === sheet)!.label}>
        {sheet === 'tracks' && <TrackRows />}
        {sheet === 'make' && <TrackBuilder />}
        {sheet === 'work' && <WorkSettings />}
        {sheet === 'versions' && <Versions />}
        {sheet === 'templates' && <Templates />}
      </div>
      <Dialog
        open={asking}
        onClose={() => setAsking(false)}
        title="New session"
        note="What the client asks for. The present session stays as it is."
      >
        <NewSessionForm onMade={() => setAsking(false)} />
      </Dialog>
    </div>
  );
}
