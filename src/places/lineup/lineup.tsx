'use client';
import { create } from 'zustand';
import { useSelection, useSession } from '@/client';
import { Inspector, Segments } from '@/parts';
import { CordBoard } from './cordBoard';
import { DeviceBar, DeviceMore } from './deviceBar';
import { Levels } from './levels';
import { LineInspector } from './lineInspector';
import { LineSheetTable } from './lineSheetTable';
import { LineupChecks } from './lineupChecks';
import { RoomTone } from './roomtone/roomTone';
import { PatchInput } from './patchInput';
import { PatchTable } from './patchTable';

const VIEWS = [
  { value: 'patch', label: 'Cords' },
  { value: 'table', label: 'Patch table' },
  { value: 'sheet', label: 'Line sheet' },
  { value: 'levels', label: 'Loudest passage' },
  { value: 'tone', label: 'Room tone' },
] as const;
type View = (typeof VIEWS)[number]['value'];

const useView = create<{ view: View }>(() => ({ view: 'patch' }));

/** Lines on the left, tracks on the right, cords between them; or the lines as a sheet, or their levels. */
export function Lineup() {
  const ready = useSession((s) => s.doc !== null);
  const selected = useSelection((s) => s.selected);
  const view = useView((s) => s.view);
  if (!ready) return null;
  return (
    <>
      <div className="flex min-w-0 flex-1 flex-col">
        <DeviceBar />
        <div className="flex h-8.5 items-center px-4 pb-1">
          <Segments
            label="View of the lines"
            action="lineup.view"
            value={view}
            options={VIEWS}
            onChange={(v) => useView.setState({ view: v })}
          />
          <DeviceMore />
        </div>
        {view === 'patch' && <CordBoard />}
        {view === 'table' && <PatchTable />}
        {view === 'sheet' && <LineSheetTable />}
        {view === 'levels' && <Levels />}
        {view === 'tone' && <RoomTone />}
        <div className="flex items-end gap-4 px-4 pb-3 pt-2" data-foot>
          {(view === 'patch' || view === 'table') && <PatchInput />}
          <LineupChecks />
        </div>
      </div>
      <Inspector label="Line">
        <LineInspector line={selected?.kind === 'line' ? selected.id : null} />
      </Inspector>
    </>
  );
}
