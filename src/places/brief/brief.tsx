'use client';
import { FolderOpen, Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { ask, useSession } from '@/client';
import { Dialog } from '@/parts';
import { Deliverables } from './deliverables';
import { FormatSentence } from './formatSentence';
import { NewSessionForm } from './newSessionForm';
import { TrackRows } from './trackRows';

/** The order sheet: format, deliverables, tracks. */
export function Brief() {
  const ready = useSession((s) => s.doc !== null);
  const [asking, setAsking] = useState(false);
  if (!ready) return null;
  return (
    <div className="grid min-w-0 flex-1 grid-rows-[auto_auto_minmax(0,1fr)] gap-4 px-7 py-5">
      <div className="flex items-start justify-between gap-6">
        <FormatSentence />
        <div className="flex shrink-0 gap-2 pt-1">
          <OtherSessions />
          <button className="btn" onClick={() => setAsking(true)}>
            <Plus size={14} /> New session
          </button>
        </div>
      </div>
      <Deliverables />
      <TrackRows />
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

function OtherSessions() {
  const [list, setList] = useState<{ id: string; name: string }[]>([]);
  const here = useSession((s) => s.id);
  const router = useRouter();
  return (
    <DropdownMenu.Root
      onOpenChange={(open) => open && void ask<{ id: string; name: string }[]>('/api/sessions').then(setList)}
    >
      <DropdownMenu.Trigger className="btn">
        <FolderOpen size={14} /> Open
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="pop max-h-[320px] min-w-[220px] overflow-auto p-1" sideOffset={4} align="end">
          {list.map((s) => (
            <DropdownMenu.Item
              key={s.id}
              className="menu-item"
              disabled={s.id === here}
              onSelect={() => router.push(`/s/${s.id}/brief`)}
            >
              {s.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
