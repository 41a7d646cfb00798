import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, edit, useOffer, useDocPart } from '@/client';
import { referenceOf, type EditJson, type SessionDoc, type Track } from '@/core/session';
import type { PrintFacts } from '@/core/print';
import { hearKeys } from './printKeys';

/** The track that holds the printed reference of a version. */
const heldReference = (doc: SessionDoc, version: number): Track | undefined => {
  const name = referenceOf(doc)?.name ?? '';
  const held = doc.tracks.filter((t) => t.print === version);
  return (
    held.find((t) => t.name === `Print ${version}: ${name}`) ??
    held.find((t) => t.name.startsWith(`Print ${version}: `))
  );
};

/** The printed files on tracks of their own, to be listened to beside the mix or in its place. */
export function BackIn({ print }: { print: PrintFacts }) {
  const [busy, setBusy] = useState(false);
  const held = useDocPart((doc) => heldReference(doc, print.version));
  const heard = held?.soloed === true;
  const bring = async () => {
    setBusy(true);
    try {
      edit(await ask<EditJson>(`/api/prints/${print.id}/back`, {}));
      toast.success(
        `Print ${print.version} is back in: muted tracks, led to the monitor only. B hears it in place of the mix.`,
      );
    } catch (error) {
      toast.error((error as Error).message, { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  // One key between the mix as it is now and what was printed.
  const swap = () => {
    if (held) edit({ type: 'seatTrack', track: held.id, soloed: !heard });
  };
  useOffer('print-back', hearKeys(swap));
  if (!held)
    return (
      <button
        className="btn"
        disabled={busy}
        title="Each file on a track of its own, where it was printed from: muted, led to the monitor only, printed never"
        onClick={() => void bring()}
      >
        <Undo2 size={14} /> {busy ? 'Coming in…' : 'Back in'}
      </button>
    );
  return (
    <button className="btn" aria-pressed={heard} title="B" onClick={swap}>
      {heard ? 'Hear the mix' : `Hear print ${print.version}`}
    </button>
  );
}
