'use client';
import { stemOfTrack } from '@/core/paths';
import { CopyPlus, GripVertical, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { edit, useDoc } from '@/client';
import { listOfNames, type Track } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { Choice, Dialog, SortableList, StemTag, TextField } from '@/parts';

/** The session's tracks in their order: named before anything is recorded, since files inherit the names. */
export function TrackRows() {
  const doc = useDoc();
  const [repeating, setRepeating] = useState<Track | null>(null);
  return (
    <>
      {doc.tracks.length === 0 && (
        <p className="small text-quiet">
          No tracks yet. Make them in one go beside this list, then line up microphones.
        </p>
      )}
      <SortableList
        label="Tracks"
        className="min-h-0 flex-1 overflow-y-auto"
        ids={doc.tracks.map((t) => t.id)}
        onOrder={(order) => edit({ type: 'orderTracks', order })}
      >
        {(id, handle) => {
          const t = doc.tracks.find((x) => x.id === id)!;
          const stem = stemOfTrack(doc, t.destination);
          return (
            <div className="group grid h-[28px] grid-cols-[20px_3ch_minmax(140px,300px)_70px_90px_90px_minmax(60px,1fr)_auto_20px_20px] items-center gap-2 border-b">
              <button
                {...handle}
                aria-label={`Move ${t.name}`}
                title="Drag, or Space and arrow keys"
                className="text-quiet/60"
              >
                <GripVertical size={13} />
              </button>
              <span className="figure text-right text-quiet">{doc.tracks.indexOf(t) + 1}</span>
              <TextField
                label={`Name of ${t.name}`}
                value={t.name}
                maxLength={60}
                className="font-[540]"
                onChange={(name) => edit({ type: 'setTrack', track: t.id, name })}
              />
              <span className="small text-quiet">{layoutOf(t.layout).name}</span>
              <Choice
                label={`Anchor of ${t.name}`}
                look="bare"
                className="small"
                value={t.anchor}
                options={[
                  { value: 'time', label: 'fixed time', note: 'clips keep their time' },
                  { value: 'music', label: 'musical', note: 'clips follow the tempo map' },
                ]}
                onChange={(anchor) => edit({ type: 'setTrack', track: t.id, anchor })}
              />
              <label
                className="small flex items-center gap-1.5 text-quiet"
                title="Steps back by itself while something is recorded"
              >
                <input
                  type="checkbox"
                  className="accent-(--brass)"
                  checked={t.guide}
                  onChange={(e) => edit({ type: 'setTrack', track: t.id, guide: e.target.checked })}
                />
                guide
              </label>
              <span />
              {stem ? <StemTag bus={stem} /> : <span className="small text-warn">no stem</span>}
              <button
                aria-label={`Repeat ${t.name} for other scripts`}
                title="Repeat it with chain and routing for other scripts"
                className="text-quiet opacity-0 hover:text-brass focus:opacity-100 group-hover:opacity-100"
                onClick={() => setRepeating(t)}
              >
                <CopyPlus size={13} />
              </button>
              <button
                aria-label={`Remove ${t.name}`}
                title="Remove the track; its files stay"
                className="text-quiet opacity-0 hover:text-stop focus:opacity-100 group-hover:opacity-100"
                onClick={() => edit({ type: 'removeTrack', track: t.id })}
              >
                <Trash2 size={13} />
              </button>
            </div>
          );
        }}
      </SortableList>
      {repeating && <RepeatDialog track={repeating} onClose={() => setRepeating(null)} />}
    </>
  );
}

function RepeatDialog({ track, onClose }: { track: Track; onClose: () => void }) {
  const [text, setText] = useState('');
  const names = listOfNames(text);
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Repeat ${track.name} for each script`}
      note="The same line, chain, place and destination, without clips and takes. One name a line."
    >
      <textarea
        autoFocus
        aria-label="Names of the scripts"
        className="field h-[140px] w-full resize-none"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
      />
      <div className="mt-3 flex justify-end">
        <button
          className="btn btn-main"
          disabled={names.length === 0}
          onClick={() => {
            if (
              edit({
                type: 'repeatTrack',
                track: track.id,
                as: names.map((name) => ({ id: `track-${nanoid(8)}`, name })),
              })
            )
              onClose();
          }}
        >
          Repeat {names.length} {names.length === 1 ? 'time' : 'times'}
        </button>
      </div>
    </Dialog>
  );
}
