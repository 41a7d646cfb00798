'use client';
import { useState } from 'react';
import {
  addStageEdits,
  copyChainEdits,
  destinationEdits,
  KIND_NAMES,
  MONITOR,
  removeStageEdits,
  sendEdits,
  type SessionDoc,
} from '@/core/session';
import { STAGE_KINDS, stageKind } from '@/core/stages';
import { Choice, Segments } from '@/parts';
import { Figure, make, Pop, read, type Rows } from './actionParts';

export function SendTo({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const [way, setWay] = useState<'out' | 'send'>('out');
  const [text, setText] = useState('-12');
  const targets = doc.buses.filter((b) => !rows.includes(b) && (way === 'out' || b.kind !== 'reference'));
  const go = (to: string | null, close: () => void) => {
    const level = way === 'send' ? read(text) : 0;
    if (level === null) return;
    const edits = () => (way === 'out' ? destinationEdits(rows, to) : sendEdits(rows, to!, level));
    if (make(edits, 'All of them are sent there already.')) close();
  };
  return (
    <Pop label="Send to…">
      {(close) => (
        <>
          <div className="flex items-center gap-2">
            <Segments
              label="How it is led"
              value={way}
              options={[
                { value: 'out', label: 'lead there' },
                { value: 'send', label: 'add a send' },
              ]}
              onChange={setWay}
            />
            {way === 'send' && <Figure label="Level of the sends, dB" value={text} onChange={setText} />}
          </div>
          <div className="max-h-60 overflow-auto">
            {targets.map((b) => (
              <button key={b.id} className="menu-item w-full text-left" onClick={() => go(b.id, close)}>
                {b.name} <span className="small ml-auto text-quiet">{KIND_NAMES[b.kind]}</span>
              </button>
            ))}
            {way === 'out' && (
              <>
                <button className="menu-item w-full text-left" onClick={() => go(MONITOR, close)}>
                  Monitor only
                </button>
                <button className="menu-item w-full text-left" onClick={() => go(null, close)}>
                  Nowhere
                </button>
              </>
            )}
          </div>
          <span className="small text-quiet">
            {rows.length === 1 ? 'For 1 row' : `For ${rows.length} rows`}, one step of undo
          </span>
        </>
      )}
    </Pop>
  );
}

export function Chain({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const [type, setType] = useState('limiter');
  const kind = stageKind(type);
  const first = kind.params.find((p) => !p.choices);
  const [text, setText] = useState<string | null>(null);
  const [from, setFrom] = useState('');
  const withChain = [...doc.tracks, ...doc.buses].filter((n) => n.chain.length > 0);
  const source = withChain.find((n) => n.id === from) ?? withChain[0];
  const n = rows.length;
  const add = (close: () => void) => {
    const value = text === null || !first ? null : read(text);
    if (text !== null && first && value === null) return;
    const values = first && value !== null ? { [first.id]: value } : {};
    if (make(() => addStageEdits(rows, type, values), '')) close();
  };
  return (
    <Pop label="Chain…">
      {(close) => (
        <>
          <div className="flex items-center gap-2">
            <Choice
              label="Stage"
              value={type}
              options={STAGE_KINDS.map((k) => ({ value: k.type, label: k.name }))}
              onChange={(t) => {
                setType(t);
                setText(null);
              }}
            />
            {first && (
              <Figure
                label={`${first.label} ${first.unit}`.trim()}
                value={text ?? first.default.toFixed(first.digits ?? 1)}
                onChange={setText}
              />
            )}
            <span className="text-quiet">{first?.unit}</span>
          </div>
          <div className="flex gap-2">
            <button className="btn btn-main" onClick={() => add(close)}>
              Add to {n}
            </button>
            <button
              className="btn"
              onClick={() =>
                make(() => removeStageEdits(rows, type), `None of them has a ${kind.name.toLowerCase()}.`) && close()
              }
            >
              Take out of {n}
            </button>
          </div>
          {source && (
            <div className="flex flex-col gap-2 border-t pt-2">
              <Choice
                label="Chain of"
                value={source.id}
                options={withChain.map((b) => ({ value: b.id, label: `Chain of ${b.name}` }))}
                onChange={setFrom}
              />
              <div className="flex gap-2">
                {(['replace', 'append'] as const).map((way) => (
                  <button
                    key={way}
                    className="btn"
                    onClick={() =>
                      make(() => copyChainEdits(source, rows, way), 'That is the only row picked.') && close()
                    }
                  >
                    {way === 'replace' ? 'In the place of theirs' : 'Behind theirs'}
                  </button>
                ))}
              </div>
            </div>
          )}
        </>
      )}
    </Pop>
  );
}
