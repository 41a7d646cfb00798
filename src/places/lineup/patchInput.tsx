'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { useDevices, docNow } from '@/client';
import { patchTold, readPatch } from './patching';

/** Cords by typing. */
export function PatchInput() {
  const { list, shown } = useDevices();
  const [text, setText] = useState('');
  const device = list.find((d) => d.id === shown) ?? list[0]!;
  return (
    <form
      className="flex shrink-0 gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        try {
          if (patchTold(docNow(), readPatch(docNow(), device, text))) setText('');
        } catch (error) {
          toast.error((error as Error).message);
        }
      }}
    >
      <input
        aria-label="Patch by typing"
        data-action="lineup.type"
        title={`Lines of ${device.name}, then where they go: 1 > Pilot, 5-6 or 1,2 > Boat, 3 > Boat.R, none > Pilot`}
        className="field figure w-60"
        placeholder="1 > Pilot, 3 > Boat.R"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <button className="btn" disabled={!text.trim()}>
        Patch
      </button>
    </form>
  );
}
