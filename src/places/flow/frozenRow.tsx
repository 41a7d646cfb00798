'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { freeze, thaw, useDoc, useTransport } from '@/client';
import { freezeFault, isFresh, type Track } from '@/core/session';
import { Row } from './inspectorRow';

/** Whether a track plays from a file of its sound behind the chain, and what makes or ends that. */
export function FrozenRow({ track }: { track: Track }) {
  const doc = useDoc();
  const [making, setMaking] = useState(false);
  const recording = useTransport((s) => s.state === 'recording');
  const fresh = isFresh(doc, track);
  const fault = freezeFault(doc, track);
  const make = () => {
    setMaking(true);
    freeze(track.id)
      .catch((error: Error) => toast.error(error.message, { id: `freeze-${track.id}`, duration: 8000 }))
      .finally(() => setMaking(false));
  };
  const why = recording ? 'While something is recorded nothing is frozen or thawed.' : (fault ?? undefined);
  return (
    <Row label="Frozen">
      <span className="flex items-center gap-1">
        <span className={`whitespace-nowrap ${track.frozen && !fresh ? 'text-warn' : 'text-quiet'}`}>
          {making ? 'being made…' : fresh ? 'plays from its file' : track.frozen ? 'changed since' : 'no'}
        </span>
        {!fresh && (
          <button
            className="btn btn-bare"
            aria-label={track.frozen ? 'Freeze again' : undefined}
            disabled={making || recording || fault !== null}
            title={why ?? 'Makes a file of its sound behind the chain and plays that, until something changes'}
            onClick={make}
          >
            {track.frozen ? 'Again' : 'Freeze'}
          </button>
        )}
        {track.frozen && (
          <button
            className="btn btn-bare"
            disabled={recording}
            title={why ?? 'Plays from its clips and chain again'}
            onClick={() => thaw(track.id)}
          >
            Thaw
          </button>
        )}
      </span>
    </Row>
  );
}
