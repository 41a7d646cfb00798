'use client';
import { nanoid } from 'nanoid';
import { useRef, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { edit, position, useDoc, useSession } from '@/client';
import { stemsOf, type EditJson, type MediaRef } from '@/core/session';
import { LAYOUTS, type LayoutId } from '@/core/speakers';
import { frameRate, frameToSample, timecodeToFrames } from '@/core/units';

const WIDTHS: LayoutId[] = ['mono', 'stereo', 'lcr', 'quad', '5.0', '5.1', '7.0', '7.1', '5.1.4', '7.1.4', '9.1.6'];

/** Brings WAV files in, each on a track of its own; a time reference in the file is respected. */
export function ImportButton({ children }: { children: ReactNode }) {
  const doc = useDoc();
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState<string | null>(null);

  async function take(file: File): Promise<void> {
    setBusy(file.name);
    const { id } = useSession.getState();
    const response = await fetch(`/api/sessions/${id}/media?name=${encodeURIComponent(file.name)}`, {
      method: 'POST',
      body: file,
    });
    const answer = (await response.json()) as {
      message?: string;
      media: MediaRef;
      timeReference: number | null;
      notes: string[];
    };
    if (!response.ok) {
      toast.error(`${file.name}: ${answer.message}`, { duration: 10_000 });
      return;
    }
    answer.notes.forEach((n) => toast.warning(`${file.name}: ${n}`));
    const layout = LAYOUTS.find((l) => WIDTHS.includes(l.id) && l.speakers.length === answer.media.channels);
    if (!layout) {
      toast.error(
        `${file.name} has ${answer.media.channels} channels; no track can be that wide. The file is in the media folder.`,
      );
      return;
    }
    const rate = frameRate(doc.format.frameRate);
    const zero = frameToSample(timecodeToFrames(doc.format.startTimecode, rate), rate, doc.format.sampleRate);
    const stamped = answer.timeReference === null ? -1 : answer.timeReference - zero;
    const start = stamped >= 0 ? stamped : position();
    const track = `track-${nanoid(8)}`;
    const name = file.name.replace(/\.\w+$/, '').slice(0, 60);
    const edits: EditJson[] = [
      { type: 'addTrack', id: track, name, layout: layout.id, destination: stemsOf(doc)[0]?.id ?? null },
      { type: 'addClip', id: `clip-${nanoid(8)}`, track, start, media: answer.media },
    ];
    if (edit(...edits))
      toast.message(`${name} stands ${stamped >= 0 ? 'where its time reference says' : 'at the playhead'}.`);
  }

  return (
    <>
      <button className="btn btn-bare" disabled={busy !== null} onClick={() => input.current?.click()}>
        {busy ? `Taking in ${busy}…` : children}
      </button>
      <input
        ref={input}
        type="file"
        accept=".wav,.bwf,.rf64,.aif,.aiff,.aifc,.flac,audio/wav,audio/x-wav,audio/aiff,audio/flac"
        multiple
        hidden
        data-testid="import"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          void (async () => {
            for (const file of files)
              await take(file).catch((error: Error) => toast.error(`${file.name} could not be sent: ${error.message}`));
            setBusy(null);
          })();
        }}
      />
    </>
  );
}
