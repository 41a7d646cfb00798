'use client';
import { stemOfTrack } from '@/core/paths';
import { clsx } from 'clsx';
import { CopyPlus, GripVertical, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState, type HTMLAttributes } from 'react';
import { toast } from 'sonner';
import { docNow, edit, useDoc, useDocPart, useLayouts, useTrack } from '@/client';
import { listOfNames, MONITOR, renameEdits, type EditJson, type SessionDoc, type Track } from '@/core/session';
import { Choice, Dialog, SortableList, StemTag, TextField } from '@/parts';

const ANCHORS = [
  { value: 'time', label: 'fixed time', note: 'clips keep their time' },
  { value: 'music', label: 'musical', note: 'clips follow the tempo map' },
] as const;
const COLUMNS =
  'grid grid-cols-[18px_16px_3ch_minmax(140px,300px)_84px_96px_70px_minmax(130px,1fr)_34px_20px_20px] items-center gap-2';
const NOWHERE = 'none';

/** The session's tracks in their order: named before anything is recorded, since files inherit the names. */
export function TrackRows() {
  const shown = useDocPart((doc) => doc.tracks.map((t) => t.id));
  const [repeating, setRepeating] = useState<Track | null>(null);
  const [picked, setPicked] = useState<{ ids: ReadonlySet<string>; anchor: string | null }>({
    ids: new Set(),
    anchor: null,
  });
  const pick = (id: string, range: boolean) =>
    setPicked(({ ids, anchor }) => {
      const next = new Set(ids);
      if (range && anchor !== null && shown.includes(anchor)) {
        const [a, b] = [shown.indexOf(anchor), shown.indexOf(id)].sort((x, y) => x - y) as [number, number];
        shown.slice(a, b + 1).forEach((x) => next.add(x));
        return { ids: next, anchor };
      }
      if (!next.delete(id)) next.add(id);
      return { ids: next, anchor: id };
    });
  return (
    <>
      {shown.length === 0 && (
        <p className="small text-quiet">
          No tracks yet. Make them in one go beside this list, then line up microphones.
        </p>
      )}
      {shown.length > 0 && (
        <PickedTracks ids={picked.ids} all={(picks) => setPicked({ ids: new Set(picks ? shown : []), anchor: null })} />
      )}
      <SortableList
        label="Tracks"
        className="min-h-0 flex-1 overflow-y-auto"
        ids={shown}
        onOrder={(order) => edit({ type: 'orderTracks', order })}
      >
        {(id, handle) => (
          <TrackRow
            {...{ id, handle }}
            number={shown.indexOf(id) + 1}
            picked={picked.ids.has(id)}
            onPick={(range) => pick(id, range)}
            onRepeat={setRepeating}
          />
        )}
      </SortableList>
      {repeating && <RepeatDialog track={repeating} onClose={() => setRepeating(null)} />}
    </>
  );
}

function TrackRow({
  id,
  number,
  picked,
  handle,
  onPick,
  onRepeat,
}: {
  id: string;
  number: number;
  picked: boolean;
  handle: HTMLAttributes<HTMLElement>;
  onPick: (range: boolean) => void;
  onRepeat: (track: Track) => void;
}) {
  const t = useTrack(id);
  if (!t) return null;
  return (
    <div className={clsx(COLUMNS, 'group h-7 border-b', picked && 'bg-raised')}>
      <button {...handle} aria-label={`Move ${t.name}`} title="Drag, or Space and arrow keys" className="text-quiet/60">
        <GripVertical size={13} />
      </button>
      <input
        type="checkbox"
        className="accent-(--brass)"
        aria-label={`Pick ${t.name}`}
        title="Pick it; with Shift all from the one before"
        checked={picked}
        onChange={(e) => onPick((e.nativeEvent as MouseEvent).shiftKey)}
      />
      <span className="figure text-right text-quiet">{number}</span>
      <TextField
        label={`Name of ${t.name}`}
        value={t.name}
        maxLength={60}
        className="font-[540]"
        onChange={(name) => rename(docNow(), t, name)}
      />
      <TrackFields track={t} />
      <button
        aria-label={`Repeat ${t.name} for other scripts`}
        title="Repeat it with chain and routing for other scripts"
        className="text-quiet opacity-0 hover:text-brass focus:opacity-100 group-hover:opacity-100"
        onClick={() => onRepeat(t)}
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
}

/** A name that is there already is taken, and told: files of both would be called alike. */
function rename(doc: SessionDoc, track: Track, name: string): void {
  const twin = doc.tracks.find((t) => t.id !== track.id && t.name.toLowerCase() === name.toLowerCase());
  if (edit({ type: 'setTrack', track: track.id, name }) && twin)
    toast.warning(`Two tracks are called ${name} now. Their files would be told apart by a number only.`);
}

/** Width, anchor, guide and destination of a track. */
function TrackFields({ track: t }: { track: Track }) {
  const layouts = useLayouts();
  const { buses } = useDoc('buses');
  const stem = useDocPart((doc) => stemOfTrack(doc, t.destination));
  return (
    <>
      <Choice
        label={`Width of ${t.name}`}
        look="bare"
        className="small"
        value={t.layout}
        options={layouts.map((l) => ({ value: l.id, label: l.name }))}
        onChange={(layout) => edit({ type: 'setTrack', track: t.id, layout })}
      />
      <Choice
        label={`Anchor of ${t.name}`}
        look="bare"
        className="small"
        value={t.anchor}
        options={ANCHORS}
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
      <Choice
        label={`Destination of ${t.name}`}
        look="bare"
        className="small"
        value={t.destination ?? NOWHERE}
        options={destinations(buses)}
        onChange={(to) => edit({ type: 'sendTracks', tracks: [t.id], destination: to === NOWHERE ? null : to })}
      />
      {stem ? <StemTag bus={stem} /> : <span className="small whitespace-nowrap text-warn">no stem</span>}
    </>
  );
}

const destinations = (buses: SessionDoc['buses']) => [
  ...buses.filter((b) => b.kind !== 'reference').map((b) => ({ value: b.id, label: `→ ${b.name}` })),
  { value: MONITOR, label: '→ monitor', note: 'heard, never printed' },
  { value: NOWHERE, label: '→ nowhere yet' },
];

/** What is set for all picked tracks at once. */
function PickedTracks({ ids, all }: { ids: ReadonlySet<string>; all: (picks: boolean) => void }) {
  const { buses } = useDoc('buses');
  const rows = useDocPart((doc) => doc.tracks.filter((t) => ids.has(t.id)));
  const layouts = useLayouts();
  const [pattern, setPattern] = useState('{name}');
  const each = (part: Omit<Extract<EditJson, { type: 'setTrack' }>, 'type' | 'track'>) =>
    edit(...rows.map((t): EditJson => ({ type: 'setTrack', track: t.id, ...part })));
  const none = '-';
  const said = { value: none, label: 'set…' };
  const give = () => {
    try {
      if (edit(...renameEdits(docNow(), rows, pattern))) setPattern('{name}');
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <div className="small mb-1 flex min-h-7 items-center gap-3 text-quiet" role="group" aria-label="Picked tracks">
      <button className="chip" onClick={() => all(rows.length === 0)}>
        {rows.length ? `${rows.length} picked: none` : 'Pick all'}
      </button>
      {rows.length > 0 && (
        <>
          <label className="flex items-center gap-1">
            width
            <Choice
              look="bare"
              className="small"
              label="Width of the picked tracks"
              value={none}
              options={[said, ...layouts.map((l) => ({ value: l.id, label: l.name }))]}
              onChange={(layout) => layout !== none && each({ layout: layout as Track['layout'] })}
            />
          </label>
          <label className="flex items-center gap-1">
            anchor
            <Choice
              look="bare"
              className="small"
              label="Anchor of the picked tracks"
              value={none}
              options={[said, ...ANCHORS]}
              onChange={(anchor) => anchor !== none && each({ anchor: anchor as Track['anchor'] })}
            />
          </label>
          <label className="flex items-center gap-1">
            destination
            <Choice
              look="bare"
              className="small"
              label="Destination of the picked tracks"
              value={none}
              options={[said, ...destinations(buses)]}
              onChange={(to) =>
                to !== none &&
                edit({
                  type: 'sendTracks',
                  tracks: rows.map((t) => t.id),
                  destination: to === NOWHERE ? null : to,
                })
              }
            />
          </label>
          <button className="chip" onClick={() => each({ guide: !rows.every((t) => t.guide) })}>
            {rows.every((t) => t.guide) ? 'no guides' : 'guides'}
          </button>
          <form
            className="ml-auto flex items-center gap-1"
            onSubmit={(e) => {
              e.preventDefault();
              give();
            }}
          >
            <input
              aria-label="Names of the picked tracks"
              title="{name} is the old name, {n} or {nn} a number"
              className="field figure h-6 w-42.5"
              value={pattern}
              onChange={(e) => setPattern(e.target.value)}
              onKeyDown={(e) => e.stopPropagation()}
            />
            <button className="chip" disabled={pattern === '{name}'}>
              Name {rows.length}
            </button>
          </form>
        </>
      )}
    </div>
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
        className="field h-35 w-full resize-none"
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
