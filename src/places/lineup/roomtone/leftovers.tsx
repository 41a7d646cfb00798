'use client';
import { useState } from 'react';
import { edit, useDoc } from '@/client';
import { Dialog } from '@/parts';

/** Room tones that no clip uses: cleared together, after a question that lists them. */
export function Leftovers() {
  const doc = useDoc('tracks', 'shelf', 'format');
  const [asking, setAsking] = useState(false);
  const used = new Set(doc.tracks.flatMap((t) => t.clips.map((c) => c.media)));
  const left = doc.shelf.filter((t) => !used.has(t.media));
  if (left.length === 0) return null;
  return (
    <>
      <button className="small text-quiet hover:text-brass" onClick={() => setAsking(true)}>
        Clear {left.length} unused…
      </button>
      <Dialog
        open={asking}
        onClose={() => setAsking(false)}
        title="Clear unused room tones"
        note="No clip uses them. Their files stay in the session’s folder; undo brings them back to the shelf."
      >
        <ul className="max-h-60 list-disc overflow-auto pl-5">
          {left.map((t) => (
            <li key={t.id}>
              {t.name}, {(t.frames / doc.format.sampleRate).toFixed(3)} s
            </li>
          ))}
        </ul>
        <div className="mt-4 flex justify-end gap-2">
          <button className="btn" onClick={() => setAsking(false)}>
            Keep them
          </button>
          <button
            className="btn btn-main"
            onClick={() => {
              edit({ type: 'removeRoomTones', tones: left.map((t) => t.id) });
              setAsking(false);
            }}
          >
            Clear {left.length}
          </button>
        </div>
      </Dialog>
    </>
  );
}
