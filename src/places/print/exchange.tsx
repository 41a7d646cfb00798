import { FileDown, FileUp, Mic } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { toast } from 'sonner';
import { edit, useDoc } from '@/client';
import { bringIn, HAND_OVER, readTimeline, type BroughtIn } from '@/core/exchange';
import { safeName } from '@/core/print';
import { Choice, Dialog, FileButton } from '@/parts';
import { RawTracks } from './rawTracks';

function save(name: string, text: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'text/plain;charset=utf-8' }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Timelines, lists and scripts in open formats, out and in. */
export function Exchange() {
  const doc = useDoc();
  const [handing, setHanding] = useState(false);
  const [raw, setRaw] = useState(false);
  const [brought, setBrought] = useState<{ name: string; came: BroughtIn } | null>(null);
  const read = async (from: File) => {
    try {
      const timeline = readTimeline(doc, from.name, await from.text());
      setBrought({ name: from.name, came: bringIn(doc, timeline, (what) => `${what}-${nanoid(8)}`) });
    } catch (error) {
      toast.error(`${from.name}: ${(error as Error).message} Nothing was brought in.`, { duration: 10_000 });
    }
  };
  return (
    <section aria-label="Other programs" className="mt-5">
      <h2 className="title mb-2">Other programs</h2>
      <div className="flex flex-wrap gap-2">
        <button className="btn" onClick={() => setHanding(true)}>
          <FileDown size={14} /> Hand over…
        </button>
        <FileButton
          label="Timeline or edit list"
          accept=".otio,.edl"
          title="A timeline (OpenTimelineIO) or an edit list (CMX 3600): its clips are laid onto tracks, files are found by name"
          onFile={(from) => void read(from)}
        >
          <FileUp size={14} /> Bring in…
        </FileButton>
        <button className="btn" onClick={() => setRaw(true)}>
          <Mic size={14} /> Raw tracks…
        </button>
      </div>
      {raw && <RawTracks onClose={() => setRaw(false)} />}
      {handing && <HandOver onClose={() => setHanding(false)} />}
      <Dialog
        open={brought !== null}
        onClose={() => setBrought(null)}
        title={`Bring in ${brought?.name ?? ''}`}
        note="What lies where a clip is laid gives way; one undo takes all of it back."
      >
        {brought && <Incoming {...brought} onClose={() => setBrought(null)} />}
      </Dialog>
    </section>
  );
}

function Incoming({ came, onClose }: { came: BroughtIn; onClose: () => void }) {
  const { laid, made, notes, edits } = came;
  return (
    <>
      <p>
        {laid} {laid === 1 ? 'clip is' : 'clips are'} laid
        {made.length > 0 && `, on ${made.length} new ${made.length === 1 ? 'track' : 'tracks'}: ${made.join(', ')}`}.
      </p>
      {notes.length > 0 && (
        <ul className="small mt-2 max-h-55 overflow-y-auto text-warn" aria-label="What does not match">
          {notes.map((n) => (
            <li key={n} className="py-0.5">
              {n}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn btn-bare" onClick={onClose}>
          Leave it
        </button>
        <button
          className="btn btn-main"
          disabled={edits.length === 0}
          onClick={() => {
            if (edit(...edits)) onClose();
          }}
        >
          Lay {laid} {laid === 1 ? 'clip' : 'clips'}
        </button>
      </div>
    </>
  );
}

function HandOver({ onClose }: { onClose: () => void }) {
  const doc = useDoc();
  const [id, setId] = useState<(typeof HAND_OVER)[number]['id']>('otio');
  const made = (() => {
    try {
      return HAND_OVER.find((h) => h.id === id)!.make(doc);
    } catch (error) {
      return (error as Error).message;
    }
  })();
  return (
    <Dialog
      open
      onClose={onClose}
      title="Hand over to other programs"
      note="Open formats. What each cannot say is told here."
    >
      <Choice
        label="Format"
        className="w-full"
        value={id}
        options={HAND_OVER.map((h) => ({ value: h.id, label: h.label, note: h.note }))}
        onChange={setId}
      />
      {typeof made === 'string' ? (
        <p role="alert" className="small mt-3 text-warn">
          {made}
        </p>
      ) : (
        <ul className="small mt-3 list-disc pl-4 text-quiet" aria-label="What does not go along">
          {made.losses.map((l) => (
            <li key={l}>{l}</li>
          ))}
        </ul>
      )}
      <div className="mt-4 flex justify-end">
        <button
          className="btn btn-main"
          disabled={typeof made === 'string'}
          onClick={() => {
            if (typeof made === 'string') return;
            save(`${safeName(doc.name)}${made.ending}`, made.text);
            onClose();
          }}
        >
          Save
        </button>
      </div>
    </Dialog>
  );
}
