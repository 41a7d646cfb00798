'use client';
import { useRef } from 'react';
import { readLevel, useDoc } from '@/client';
import { linksOf, orderOf, waysOf } from '@/core/paths';
import { exampleName } from '@/core/print';
import { isBus, MONITOR, type Bus, type SessionDoc, type Track } from '@/core/session';
import { formatDb } from '@/core/units';
import { useFrame, drawText } from '@/parts';
import { follow, useFlow } from './flowState';
import { levelKeys } from './levelKeys';

interface Stop {
  label: string;
  /** Whose level stands beside it; none: it is printed. */
  keys: readonly string[] | null;
  /** A second level, behind chain and level. */
  after?: readonly string[];
  /** dB on top of that level. */
  plus?: number;
}

/** What the sound of a track or bus comes by, in the order of the way. */
function stopsOf(doc: SessionDoc, node: Track | Bus): Stop[] {
  const ways = waysOf(doc, node.id);
  const links = linksOf(doc);
  const stops: Stop[] = [
    { label: 'arriving, after chain and level', keys: levelKeys(node, 'in'), after: levelKeys(node, 'out') },
    ...links.from(node.id).flatMap((l): Stop[] => {
      const send = l.kind === 'send' ? node.sends.find((s) => s.id === l.id) : undefined;
      const to = doc.buses.find((b) => b.id === l.to);
      // Before the level, the sound is louder by what the level takes away.
      const tap = l.tap === 'after' ? 0 : -node.level;
      return send && to ? [{ label: `sent to ${to.name}`, keys: levelKeys(node, 'out'), plus: send.level + tap }] : [];
    }),
  ];
  const reached = orderOf(doc)
    .nodes.filter(isBus)
    .filter((b) => b.id !== node.id && links.to(b.id).some((l) => ways.has(l.id)));
  for (const b of reached)
    stops.push({ label: `all of ${b.name}`, keys: levelKeys(b, 'in'), after: levelKeys(b, 'out') });
  const ends = [...reached, ...(isBus(node) ? [node] : [])];
  if (ends.some((b) => b.destination === MONITOR)) stops.push({ label: 'Monitor', keys: ['out/ears/0', 'out/ears/1'] });
  for (const d of doc.deliverables)
    if (ends.some((b) => b.id === d.bus)) stops.push({ label: nameOf(doc, d), keys: null });
  return stops;
}

function nameOf(doc: SessionDoc, d: SessionDoc['deliverables'][number]): string {
  try {
    return exampleName(doc, d).replace(/\.\w+$/, '');
  } catch {
    return d.token;
  }
}

/** The way of the sound that is followed, with its level at each step. */
export function Way() {
  const doc = useDoc();
  const following = useFlow((s) => s.following);
  const node = [...doc.tracks, ...doc.buses].find((n) => n.id === following);
  if (!node) return null;
  return (
    <section aria-label={`Way of ${node.name}`} className="mb-4 border-b pb-3">
      <h2 className="title mb-1 flex items-center pr-6">
        {node.name}&apos;s way
        <button className="btn btn-bare ml-auto font-[420]" onClick={() => follow(null)}>
          Show all
        </button>
      </h2>
      {stopsOf(doc, node).map((s, i) => (
        <div key={i} className="small flex min-h-6 items-center justify-between gap-2 border-b">
          <span className="truncate text-quiet" title={s.label}>
            {s.keys ? s.label : `⇥ ${s.label}`}
          </span>
          <span className="flex gap-2">
            {s.keys ? <Level keys={s.keys} plus={s.plus ?? 0} /> : <span className="figure">printed</span>}
            {s.after && <Level keys={s.after} plus={0} />}
          </span>
        </div>
      ))}
    </section>
  );
}

function Level({ keys, plus }: { keys: readonly string[]; plus: number }) {
  const text = useRef<HTMLSpanElement>(null);
  const last = useRef('');
  useFrame(() => {
    const db = Math.max(-Infinity, ...keys.map((k) => readLevel(k).hold)) + plus;
    const shown = db > -90 ? formatDb(db) : '–';
    if (shown === last.current || !text.current) return;
    last.current = shown;
    drawText(text.current, shown);
  });
  return (
    <span ref={text} className="figure w-[5.4ch] text-right">
      –
    </span>
  );
}
