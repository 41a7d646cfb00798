'use client';
import { useRef } from 'react';
import { readLevel, arrivingKey, leavingKey } from '@/client';
import { differenceNode } from '@/core/engine';
import { referencesOf, type Bus, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { formatDb } from '@/core/units';
import { useFrame, drawText } from '@/parts';

/** dBFS: less than this is rounding (the sum of a dozen files of 24 bits stays below). */
const ROUNDING = -120;

/** By how much the sum of the stems differs from a reference in what sounds now, and what that means. */
export function Difference({ reference }: { reference: Bus }) {
  const text = useRef<HTMLSpanElement>(null);
  const last = useRef('');
  const channels = widthOf(reference.layout);
  useFrame(() => {
    const id = differenceNode(reference.id);
    let [db, sounding] = [-Infinity, false];
    for (let c = 0; c < channels; c++) {
      db = Math.max(db, readLevel(leavingKey(id, c)).hold);
      sounding ||= readLevel(arrivingKey(reference.id, c)).hold > -100;
    }
    const fine = db <= ROUNDING;
    const shown = !sounding
      ? '– nothing sounds'
      : `${db === -Infinity ? 'exact' : `${formatDb(db)} dBFS`} · ${fine ? 'they add up' : 'they do not add up'}`;
    if (shown === last.current || !text.current) return;
    last.current = shown;
    drawText(text.current, shown);
    text.current.style.color = !sounding ? '' : fine ? 'var(--fine)' : 'var(--warn)';
  });
  return (
    <span ref={text} className="figure whitespace-nowrap" data-difference={reference.id}>
      – nothing sounds
    </span>
  );
}

/** Whether the stems of each reference add up, now. */
export function SumNow({ doc }: { doc: SessionDoc }) {
  return (
    <div className="flex min-w-0 flex-1 flex-wrap items-center gap-x-4 rounded-md border px-3">
      {referencesOf(doc).map((r) => (
        <span key={r.id} className="flex items-baseline gap-2 whitespace-nowrap">
          <b className="font-[600]">Stems against {r.name}</b> <Difference reference={r} />
        </span>
      ))}
    </div>
  );
}
