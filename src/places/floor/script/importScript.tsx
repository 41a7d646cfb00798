'use client';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { edit, position, useDoc } from '@/client';
import { numberCues, readScript, type ScriptRead } from '@/core/exchange';
import { Dialog, FileButton, timecodeOf } from '@/parts';

/** A script from a file or pasted; what would come is seen before it comes. */
export function ImportScript({ open, onClose }: { open: boolean; onClose: () => void }) {
  const doc = useDoc();
  const [text, setText] = useState('');
  const read = useMemo((): ScriptRead | string | null => {
    if (!text.trim()) return null;
    try {
      return readScript(doc, text, position(), () => `cue-${nanoid(8)}`);
    } catch (error) {
      return (error as Error).message;
    }
  }, [doc, text]);
  const take = (instead: boolean) => {
    if (read === null || typeof read === 'string') return;
    const cues = numberCues(read.cues, instead ? 1 : doc.cues.length + 1);
    if (!edit({ type: 'addCues', cues, ...(instead ? { instead } : {}) })) return;
    setText('');
    onClose();
  };
  const ready = read !== null && typeof read !== 'string' && read.cues.length > 0;
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Bring in a script"
      note="A cue list (CSV), subtitles (SRT, WebVTT), or lines from a document."
      wide
    >
      <div className="mb-2 flex gap-2">
        <FileButton
          label="File of a script"
          accept=".csv,.tsv,.txt,.srt,.vtt,text/*"
          onFile={(chosen) => void chosen.text().then(setText)}
        >
          Choose a file…
        </FileButton>
      </div>
      <textarea
        aria-label="Script"
        className="field figure h-[130px]! resize-none py-2"
        placeholder={
          'number,in,out,character,text\n12,10:00:23:00,10:00:26:10,Pilot,"Mind the gauge."\n\nor\n\nPILOT: Mind the gauge.'
        }
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      {typeof read === 'string' && <p className="mt-2 text-stop">{read}</p>}
      {ready && (
        <>
          <ul className="mt-2 max-h-[180px] overflow-y-auto border-y">
            {read.cues.slice(0, 60).map((c) => (
              <li key={c.id} className="flex gap-2 py-0.5">
                <span className="figure w-[3ch] text-right">{c.number}</span>
                <span className="figure text-quiet">{timecodeOf(doc, c.start)}</span>
                <b className="w-[90px] shrink-0 truncate font-[580]">{c.character}</b>
                <span className="truncate">{c.text}</span>
              </li>
            ))}
          </ul>
          {read.notes.map((n) => (
            <p key={n} className="small mt-1 text-warn">
              {n}
            </p>
          ))}
        </>
      )}
      <div className="mt-4 flex justify-end gap-2">
        {doc.cues.length > 0 && (
          <button className="btn" disabled={!ready} onClick={() => take(true)}>
            In the place of the script
          </button>
        )}
        <button className="btn btn-main" disabled={!ready} onClick={() => take(false)}>
          {ready ? `Add ${read.cues.length} ${read.cues.length === 1 ? 'cue' : 'cues'}` : 'Add'}
        </button>
      </div>
    </Dialog>
  );
}
