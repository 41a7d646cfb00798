'use client';
import { FileOutput } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, stored, useDoc, useSession } from '@/client';
import type { Clip, MediaRef } from '@/core/session';
import { NumberField } from '@/parts';

/** Makes a file of a clip, as long as is asked to the sample. */
export function OwnFile({ clip }: { clip: Clip }) {
  const session = useSession((s) => s.id);
  const { sampleRate } = useDoc('format').format;
  const [asked, setAsked] = useState<{ clip: string; frames: number } | null>(null);
  const [busy, setBusy] = useState(false);
  const frames = asked?.clip === clip.id ? asked.frames : clip.length;
  const make = async () => {
    setBusy(true);
    try {
      await stored();
      const made = await ask<MediaRef>(`/api/sessions/${session}/clips/${clip.id}/own`, { frames });
      toast.success(`${clip.name} has the file ${made.name}, ${made.frames} samples long. The old file stays.`);
      setAsked(null);
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="small mt-2 flex items-center gap-1">
      <span className="text-quiet">own file of</span>
      <NumberField
        label="Length of the file of its own"
        value={frames / sampleRate}
        unit="s"
        min={1 / sampleRate}
        max={24 * 3600}
        step={0.5}
        digits={4}
        onChange={(s) => setAsked({ clip: clip.id, frames: Math.max(1, Math.round(s * sampleRate)) })}
      />
      <button
        className="chip ml-auto"
        disabled={busy || clip.locked}
        title="A file that holds just this clip; silence follows where there is no more sound. Crossfades at its ends become cuts."
        onClick={() => void make()}
      >
        <FileOutput size={13} /> {busy ? 'Making it…' : 'Make'}
      </button>
    </div>
  );
}
