'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, stored, useDoc, useSession, useTransport } from '@/client';
import { formatBytes } from '@/core/units';
import { Dialog } from '@/parts';

/** Bytes of a sample once converted: 24 bits. */
const BYTES = 3;

/** What another sample rate means for a session with material, and the button that does it. */
export function RateDialog({ to, onClose }: { to: number; onClose: () => void }) {
  const doc = useDoc('media', 'format');
  const id = useSession((s) => s.id);
  const rolling = useTransport((s) => s.state !== 'stopped');
  const [busy, setBusy] = useState(false);
  const files = Object.values(doc.media);
  const from = doc.format.sampleRate;
  const seconds = files.reduce((sum, f) => sum + f.frames / f.sampleRate, 0);
  const bytes = files.reduce((sum, f) => sum + f.channels * (f.frames / f.sampleRate) * to * BYTES, 0);
  const convert = async () => {
    setBusy(true);
    try {
      await stored();
      await ask(`/api/sessions/${id}/rate`, { sampleRate: to });
      toast.success(
        `The session runs at ${to / 1000} kHz. The files at ${from / 1000} kHz are kept; undo goes back to them.`,
      );
      onClose();
    } catch (error) {
      toast.error(`${(error as Error).message} The session stays at ${from / 1000} kHz.`);
      setBusy(false);
    }
  };
  return (
    <Dialog open onClose={onClose} title={`From ${from / 1000} to ${to / 1000} kHz`}>
      <p>
        {files.length} {files.length === 1 ? 'file' : 'files'} of together {seconds.toFixed(0)} s are at {from / 1000}{' '}
        kHz. They would be converted, with alias and distortion below −125 dB, to {formatBytes(bytes)} of new files
        beside the old ones. Every clip, take and cue keeps its time.
      </p>
      <p className="small mt-2 text-quiet">
        A version is kept before it, and one undo goes back to the old files. Devices that are on are switched off.
      </p>
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn" onClick={onClose}>
          Stay at {from / 1000} kHz
        </button>
        <button
          className="btn btn-main"
          disabled={busy || rolling}
          title={rolling ? 'Stop first' : undefined}
          onClick={() => void convert()}
        >
          {busy ? 'Converting…' : `Convert ${files.length} ${files.length === 1 ? 'file' : 'files'}`}
        </button>
      </div>
    </Dialog>
  );
}
