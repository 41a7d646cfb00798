'use client';
import { useState } from 'react';
import { edit, useDocPart } from '@/client';
import { takeText, type Take, type Track } from '@/core/session';
import { Dialog } from '@/parts';
import { useFloor } from './floorState';

/** A note on the take that is chosen, written without looking for its row: Enter keeps it, Escape leaves it. */
export function TakeNote() {
  const noting = useFloor((s) => s.noting);
  const track = useDocPart((doc) => doc.tracks.find((t) => t.id === noting?.track));
  const take = track?.takes.find((t) => t.id === noting?.take);
  if (!track || !take) return null;
  return <NoteDialog key={take.id} track={track} take={take} />;
}

function NoteDialog({ track, take }: { track: Track; take: Take }) {
  const text = useDocPart((doc) => takeText(doc, track, take));
  const [note, setNote] = useState(take.note ?? '');
  const close = () => useFloor.setState({ noting: null });
  return (
    <Dialog open onClose={close} title={`Note on ${text} of ${track.name}`}>
      <form
        className="flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (note.trim() === (take.note ?? '')) close();
          else if (edit({ type: 'setTake', track: track.id, take: take.id, note: note.trim() })) close();
        }}
      >
        <input
          autoFocus
          aria-label="Note"
          className="field flex-1"
          maxLength={500}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        <button className="btn btn-main">Keep it</button>
      </form>
    </Dialog>
  );
}
