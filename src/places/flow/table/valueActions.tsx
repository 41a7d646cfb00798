'use client';
import { useState } from 'react';
import {
  isBus,
  levelEdits,
  placeEdits,
  renameEdits,
  trimEdits,
  type LevelChange,
  type SessionDoc,
} from '@/core/session';
import { Segments } from '@/parts';
import { Figure, make, Pop, read, type Rows } from './actionParts';

export function Level({ rows }: { rows: Rows }) {
  const [way, setWay] = useState<LevelChange['way']>('by');
  const [what, setWhat] = useState<'level' | 'trim'>('level');
  const [text, setText] = useState('0');
  const buses = rows.filter(isBus).length;
  return (
    <Pop label="Level…">
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const db = read(text);
            if (db === null) return;
            const edits = () => (what === 'level' ? levelEdits : trimEdits)(rows, { way, db });
            if (make(edits, 'None of the rows has a trim.')) close();
          }}
        >
          <Segments
            label="What is set"
            value={what}
            options={[
              { value: 'level', label: 'level' },
              { value: 'trim', label: 'trim before the chain' },
            ]}
            onChange={setWhat}
          />
          <div className="flex items-center gap-2">
            <Segments
              label="How it is set"
              value={way}
              options={[
                { value: 'by', label: 'change by' },
                { value: 'to', label: 'set to' },
              ]}
              onChange={setWay}
            />
            <Figure label="dB" value={text} onChange={setText} />
            <span className="text-quiet">dB</span>
          </div>
          <button className="btn btn-main self-end" disabled={what === 'trim' && buses === 0}>
            For {what === 'trim' ? buses : rows.length}
          </button>
        </form>
      )}
    </Pop>
  );
}

export function Place({ rows }: { rows: Rows }) {
  const [azimuth, setAzimuth] = useState('0');
  const [distance, setDistance] = useState('1');
  return (
    <Pop label="Place…">
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const [a, d] = [read(azimuth), read(distance)];
            if (a === null || d === null) return;
            if (
              make(() => placeEdits(rows, { azimuth: a, distance: d }), 'None of them is mono or stereo with a place.')
            )
              close();
          }}
        >
          <label className="flex items-center gap-2">
            <span className="w-22.5 text-quiet">azimuth °</span>
            <Figure label="Azimuth, degrees, positive to the left" value={azimuth} onChange={setAzimuth} />
          </label>
          <label className="flex items-center gap-2">
            <span className="w-22.5 text-quiet">distance</span>
            <Figure label="Distance, 0 to 1" value={distance} onChange={setDistance} />
          </label>
          <button className="btn btn-main self-end">Place {placeEdits(rows, {}).length}</button>
        </form>
      )}
    </Pop>
  );
}

export function Rename({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const [pattern, setPattern] = useState('{name}');
  return (
    <Pop label="Rename…">
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (make(() => renameEdits(doc, rows, pattern), '')) close();
          }}
        >
          <input
            aria-label="Pattern of the names"
            className="field"
            value={pattern}
            onChange={(e) => setPattern(e.target.value)}
          />
          <span className="small text-quiet">{'{name}: the old name; {n}, {nn}: a number'}</span>
          <button className="btn btn-main self-end">Rename {rows.length}</button>
        </form>
      )}
    </Pop>
  );
}
