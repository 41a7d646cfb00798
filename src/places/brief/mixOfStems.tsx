'use client';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { edit, useDocPart } from '@/client';
import { stemsOf } from '@/core/session';
import { Dialog, StemTag } from '@/parts';

/** One more mix to hand over, of chosen stems: a version without narration, music and effects, and so on. */
export function MixOfStems({ onClose }: { onClose: () => void }) {
  const stems = useDocPart(stemsOf);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(stems.map((s) => s.id)));
  const [typed, setTyped] = useState<string | null>(null);
  const out = stems.filter((s) => !chosen.has(s.id));
  const inside = stems.filter((s) => chosen.has(s.id));
  // Told by what is fewer: what is in it, or what is not.
  const proposed =
    out.length === 0
      ? ''
      : out.length <= inside.length
        ? `Without ${out.map((s) => s.name).join(', ')}`
        : inside.map((s) => s.name).join(' and ');
  const name = (typed ?? proposed).slice(0, 40);
  const make = () => {
    const id = `reference-${nanoid(6)}`;
    // A reference comes with its file.
    if (edit({ type: 'addReference', id, name: name.trim(), leftOut: out.map((s) => s.id) })) onClose();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Mix of chosen stems"
      note="Printed beside the others in the same pass. It is a reference of its own, with a chain of its own, in Flow."
    >
      <ul className="columns-2 gap-6">
        {stems.map((s) => (
          <li key={s.id}>
            <label className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="accent-(--brass)"
                checked={chosen.has(s.id)}
                onChange={(e) => {
                  const next = new Set(chosen);
                  if (e.target.checked) next.add(s.id);
                  else next.delete(s.id);
                  setChosen(next);
                }}
              />
              <StemTag bus={s} /> {s.name}
            </label>
          </li>
        ))}
      </ul>
      <form
        className="mt-4 flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          make();
        }}
      >
        <input
          aria-label="Name of the mix"
          className="field min-w-0 flex-1"
          maxLength={40}
          placeholder="Leave a stem out, or name it"
          value={name}
          onChange={(e) => setTyped(e.target.value)}
        />
        <button className="btn btn-main" disabled={!name.trim() || inside.length === 0}>
          Ask for it
        </button>
      </form>
      {out.length === 0 && (
        <p className="small mt-2 text-quiet">With all stems it is the reference once more, under another name.</p>
      )}
    </Dialog>
  );
}
