'use client';
import { edit, useDoc } from '@/client';
import { isBus, muteEdits, rowsOfIds, soloEdits, type Track } from '@/core/session';
import { wantBus } from '../flowState';
import { Join } from './join';
import { Chain, SendTo } from './pathActions';
import { pickRows, usePicked } from './picked';
import { Freeze, Remove } from './rowActions';
import { PICKS } from './rowFacts';
import { Level, Place, Rename } from './valueActions';

/** What is done with the rows that are picked: every action says to how many it goes, and is one step of undo. */
export function PickBar() {
  const doc = useDoc();
  const { ids } = usePicked();
  const rows = rowsOfIds(doc, ids);
  if (rows.length === 0)
    return (
      <div className="mx-4 flex h-10.5 items-center gap-2 rounded-md border border-dashed px-3">
        <span className="small mr-1 text-quiet">Pick rows by click, Shift or Ctrl; or</span>
        {PICKS.map((p) => (
          <button key={p.label} className="chip" onClick={() => pickRows(p.of(doc))}>
            {p.label}
          </button>
        ))}
      </div>
    );
  const n = rows.length;
  const tracks = rows.filter((r): r is Track => !isBus(r));
  const muted = rows.every((r) => r.muted);
  const soloed = rows.every((r) => r.soloed);
  return (
    <div
      className="mx-4 flex min-h-10.5 flex-wrap items-center gap-1.5 rounded-md border border-brass px-3 py-1"
      role="toolbar"
      aria-label="Actions on the picked rows"
    >
      <b className="mr-1 font-[620] text-brass">{n === 1 ? '1 row picked' : `${n} rows picked`}</b>
      <Level rows={rows} />
      <SendTo doc={doc} rows={rows} />
      <button
        className="btn"
        onClick={() =>
          wantBus({ kind: 'bus', tracks: tracks.map((t) => t.id), buses: rows.filter(isBus).map((b) => b.id) })
        }
      >
        Group {n}…
      </button>
      <Join doc={doc} rows={rows} />
      <Chain doc={doc} rows={rows} />
      <Place rows={rows} />
      <Rename doc={doc} rows={rows} />
      <button className="btn" onClick={() => edit(...muteEdits(rows, !muted))}>
        {muted ? 'Unmute' : 'Mute'} {n}
      </button>
      <button className="btn" onClick={() => edit(...soloEdits(rows, !soloed))}>
        {soloed ? 'Unsolo' : 'Solo'} {n}
      </button>
      <Freeze doc={doc} rows={rows} />
      <Remove rows={rows} />
      <button className="btn btn-bare ml-auto" onClick={() => pickRows([])}>
        Let go
      </button>
    </div>
  );
}
