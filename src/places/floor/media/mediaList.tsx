'use client';
import { clsx } from 'clsx';
import { ArrowDownToLine, Download, GripVertical, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import {
  ask,
  edit,
  locate,
  lookAtDisk,
  position,
  selectClips,
  trackSelected,
  useDisk,
  useDoc,
  useSession,
} from '@/client';
import type { MediaRef } from '@/core/session';
import { labelsIn, layoutOf, ordersOf, widthOf } from '@/core/speakers';
import { formatDuration } from '@/core/units';
import { Choice, Dialog, FileButton, TextField } from '@/parts';
import { carryMedia, layMedia } from './dropping';
import { filesFound, usageOf, type Usage } from './usage';

/** Rows at a time; the search finds the others. */
const MOST_SHOWN = 400;

/** Files of the session: where they are used, where they lie on disk; those that nothing uses can be cleared. */
export function MediaList() {
  const doc = useDoc();
  const session = useSession((s) => s.id);
  const list = useMemo(() => usageOf(doc), [doc]);
  const [words, setWords] = useState('');
  const [clearing, setClearing] = useState(false);
  const { data: folder } = useQuery({
    queryKey: ['folder', session, list.length],
    queryFn: () => ask<{ folder: string; bytes: Record<string, number> }>(`/api/sessions/${session}/files`),
  });
  const missing = useDisk((s) => s.missing);
  const unused = list.filter((u) => !u.used);
  const found = filesFound(list, words, missing);
  const rate = doc.format.sampleRate;
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Files">
      <div className="flex items-center gap-2 px-3 py-1.5">
        <input
          aria-label="Search the files"
          placeholder={`${list.length} files`}
          className="field small h-6"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          onKeyDown={(e) => e.stopPropagation()}
        />
        {unused.length > 0 && (
          <button className="chip shrink-0" onClick={() => setClearing(true)}>
            Clear {unused.length} unused…
          </button>
        )}
      </div>
      {folder && (
        <p className="small truncate px-3 pb-1 text-quiet" title={folder.folder}>
          {folder.folder}
        </p>
      )}
      <ol className="min-h-0 flex-1 overflow-y-auto">
        {found.slice(0, MOST_SHOWN).map(({ media, clips, used }) => (
          <li key={media.id} className="border-b px-3 py-1.5" data-media={media.id}>
            <div className="flex items-center gap-1">
              <span
                draggable
                title="Drag to a row of the timeline"
                className="-ml-2 cursor-grab text-quiet/60"
                data-carry={media.id}
                onDragStart={(e) => carryMedia(e.dataTransfer, media.id)}
              >
                <GripVertical size={13} />
              </span>
              <TextField
                label={`Name of ${media.name}`}
                value={media.name}
                className="-ml-1 flex-1"
                maxLength={200}
                onChange={(name) => edit({ type: 'nameMedia', media: media.id, name })}
              />
              <button
                className="chip border-0"
                aria-label={`Place ${media.name} at the playhead`}
                title="Place it at the playhead, on the selected track or on one of its own"
                onClick={() =>
                  layMedia(media.id, { track: trackSelected(doc)?.id ?? null, at: Math.round(position()) })
                }
              >
                <ArrowDownToLine size={13} className="-rotate-90" />
              </button>
              <a
                className="chip border-0"
                aria-label={`Save ${media.name}`}
                title="Save a copy of the file"
                href={`/api/media/${media.id}/file`}
                download={media.name}
              >
                <Download size={13} />
              </a>
            </div>
            {missing.includes(media.id) && <Relink media={media} />}
            <OrderOf media={media} />
            <button
              className="small flex w-full gap-1.5 text-left text-quiet"
              disabled={clips.length === 0}
              title={clips.length ? 'Show where it is used' : undefined}
              onClick={() => {
                selectClips(clips.map((c) => c.id));
                locate(Math.min(...clips.map((c) => c.start)));
              }}
            >
              <span className="figure">{formatDuration(media.frames / rate)}</span>
              <span>{media.channels} ch</span>
              {missing.includes(media.id) && <span className="text-stop">missing</span>}
              {folder?.bytes[media.id] !== undefined && (
                <span className="figure">{(folder.bytes[media.id]! / 1e6).toFixed(1)} MB</span>
              )}
              <span className={used ? '' : 'text-warn'}>
                {clips.length ? `${clips.length} ${clips.length === 1 ? 'clip' : 'clips'}` : used ? 'kept' : 'unused'}
              </span>
            </button>
          </li>
        ))}
        {found.length > MOST_SHOWN && (
          <li className="small px-3 py-2 text-quiet">
            {found.length - MOST_SHOWN} more; a part of their names finds them.
          </li>
        )}
      </ol>
      <ClearUnused open={clearing} unused={unused} onClose={() => setClearing(false)} />
    </section>
  );
}

/** In which order the channels of a wide file stand: what it says, or what one says of it. */
function OrderOf({ media }: { media: MediaRef }) {
  const doc = useDoc('tracks');
  const track = doc.tracks.find((t) => t.clips.some((c) => c.media === media.id));
  const layout = track && media.channels === widthOf(track.layout) ? layoutOf(track.layout) : null;
  if (media.kind !== 'file' || !layout || ordersOf(layout).length < 2) return null;
  return (
    <div className="small flex items-center gap-1.5 text-quiet">
      <Choice
        label={`Channel order of ${media.name}`}
        look="bare"
        className={clsx('figure -ml-1', media.unsaid && 'text-warn')}
        value={media.order ?? 'wav'}
        options={ordersOf(layout).map((o) => ({
          value: o.id,
          label: labelsIn(layout, o.id).join(' '),
          note: o.name,
        }))}
        onChange={(order) => edit({ type: 'setMediaOrder', media: media.id, order })}
      />
      {media.unsaid && <span>not said by the file</span>}
    </div>
  );
}

/** Brings a missing file back from wherever it is. */
function Relink({ media }: { media: MediaRef }) {
  const bring = async (file: File) => {
    const answer = await fetch(`/api/media/${media.id}/file`, { method: 'PUT', body: file }).catch(() => null);
    const said = (await answer?.json().catch(() => null)) as { message?: string } | null;
    if (!answer?.ok) toast.error(said?.message ?? 'The server is away; try again.');
    else toast.success(`${media.name} is back.`);
    await lookAtDisk();
  };
  return (
    <FileButton
      label={`Bring ${media.name} back`}
      className="chip my-0.5 text-stop"
      onFile={(file) => void bring(file)}
    >
      Bring {media.name} back…
    </FileButton>
  );
}

function ClearUnused({ open, unused, onClose }: { open: boolean; unused: Usage[]; onClose: () => void }) {
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title={`Clear ${unused.length} ${unused.length === 1 ? 'file' : 'files'} that nothing uses`}
      note="They leave the session's list. The files themselves stay in its folder until you delete them there; undo brings them back."
    >
      <ul className="max-h-65 overflow-y-auto">
        {unused.map(({ media }) => (
          <li key={media.id} className="truncate py-0.5">
            {media.name}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn btn-bare" onClick={onClose}>
          Keep them
        </button>
        <button
          className="btn btn-main"
          onClick={() => {
            edit({ type: 'removeMedia', media: unused.map((u) => u.media.id) });
            onClose();
          }}
        >
          <Trash2 size={14} /> Clear {unused.length}
        </button>
      </div>
    </Dialog>
  );
}
