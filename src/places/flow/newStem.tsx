'use client';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { edit, select, useDoc } from '@/client';
import { Dialog } from '@/parts';

/** Makes and names a stem; the given tracks go there in the same step. */
export function NewStem({ tracks, onDone }: { tracks: string[] | null; onDone: () => void }) {
  const doc = useDoc();
  const [name, setName] = useState('');
  const names = doc.tracks.filter((t) => tracks?.includes(t.id)).map((t) => t.name);
  const make = () => {
    const id = `stem-${nanoid(6)}`;
    if (!edit({ type: 'addStem', id, name: name.trim(), tracks: tracks ?? [] })) return;
    select({ kind: 'bus', id });
    setName('');
    onDone();
  };
  return (
    <Dialog
      open={tracks !== null}
      onClose={onDone}
      title="New stem"
      note={
        names.length
          ? `${names.join(', ')} will go there. It feeds the reference and gets a file of its own.`
          : 'It feeds the reference and gets a file of its own.'
      }
    >
      <form
        className="flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          make();
        }}
      >
        <input
          autoFocus
          aria-label="Name of the stem"
          className="field"
          placeholder="Name, such as Bells"
          maxLength={40}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button className="btn btn-main" disabled={!name.trim()}>
          Make
        </button>
      </form>
    </Dialog>
  );
}
