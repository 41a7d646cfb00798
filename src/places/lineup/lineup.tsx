'use client';
import { useSelection, useSession } from '@/client';
import { Inspector } from '@/parts';
import { CordBoard } from './cordBoard';
import { DeviceBar } from './deviceBar';
import { LineInspector } from './lineInspector';
import { LineupChecks } from './lineupChecks';
import { PatchInput } from './patchInput';

/** Lines on the left, tracks on the right, cords between them. */
export function Lineup() {
  const ready = useSession((s) => s.doc !== null);
  const selected = useSelection((s) => s.selected);
  if (!ready) return null;
  return (
    <>
      <div className="flex min-w-0 flex-1 flex-col">
        <DeviceBar />
        <CordBoard />
        <div className="flex items-end gap-4 px-4 pb-3 pt-2">
          <PatchInput />
          <LineupChecks />
        </div>
      </div>
      <Inspector label="Line">
        <LineInspector line={selected?.kind === 'line' ? selected.id : null} />
      </Inspector>
    </>
  );
}
