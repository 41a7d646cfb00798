import { useState } from 'react';
import { toast } from 'sonner';
import { ask, useDoc, useSession } from '@/client';
import type { RawWish } from '@/core/print';
import { Dialog, NumberField, Segments } from '@/parts';

/** Tracks for another engineer: raw files, with the line sheet, the script and what was noted of the takes. */
export function RawTracks({ onClose }: { onClose: () => void }) {
  const doc = useDoc('tracks');
  const session = useSession((s) => s.id);
  const able = doc.tracks.filter((t) => t.print === undefined && (t.clips.length > 0 || t.takes.length > 0));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [wish, setWish] = useState<Omit<RawWish, 'tracks'>>({
    as: 'joined',
    sound: 'processed',
    takes: 'circled',
    handles: 2,
  });
  const [busy, setBusy] = useState(false);
  const chosen = able.filter((t) => !left.has(t.id));
  const set = (part: Partial<RawWish>) => setWish((w) => ({ ...w, ...part }));
  const hand = async () => {
    setBusy(true);
    try {
      const tracks = chosen.map((t) => t.id);
      const { token } = await ask<{ token: string }>(`/api/sessions/${session}/raw`, { ...wish, tracks });
      window.location.assign(`/api/sessions/${session}/raw?token=${token}`);
      onClose();
    } catch (error) {
      toast.error((error as Error).message, { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Raw tracks for another engineer"
      note="One archive: the files, their checksums, the line sheet, the script, and what was noted of the takes, as tables and on paper."
    >
      <div className="flex flex-col gap-2">
        <Segments
          label="What files"
          value={wish.as}
          options={[
            { value: 'joined', label: 'one a track, from a common start' },
            { value: 'clips', label: 'clips with handles' },
            { value: 'takes', label: 'takes as recorded' },
          ]}
          onChange={(as) => set({ as })}
        />
        <div className="flex flex-wrap gap-2">
          <Segments
            label="What sound"
            value={wish.sound}
            options={[
              { value: 'processed', label: 'as recorded through its chain' },
              { value: 'dry', label: 'untouched' },
            ]}
            onChange={(sound) => set({ sound })}
          />
          {wish.as === 'clips' && (
            <span className="flex items-center gap-1 text-quiet">
              handles
              <NumberField
                label="Handles on either side"
                unit="s"
                value={wish.handles}
                min={0}
                max={60}
                onChange={(handles) => set({ handles })}
              />
            </span>
          )}
          {wish.as === 'takes' && (
            <Segments
              label="Which takes"
              value={wish.takes}
              options={[
                { value: 'circled', label: 'circled' },
                { value: 'all', label: 'all' },
              ]}
              onChange={(takes) => set({ takes })}
            />
          )}
        </div>
      </div>
      <ul className="mt-3 max-h-57.5 overflow-y-auto" aria-label="Tracks to hand over">
        {able.map((t) => (
          <li key={t.id} className="border-b">
            <label className="flex items-center gap-2 py-1">
              <input
                type="checkbox"
                checked={!left.has(t.id)}
                onChange={(e) => {
                  const next = new Set(left);
                  if (e.target.checked) next.delete(t.id);
                  else next.add(t.id);
                  setLeft(next);
                }}
              />
              <span className="min-w-0 flex-1 truncate">{t.name}</span>
              <span className="small text-quiet">
                {t.clips.length} {t.clips.length === 1 ? 'clip' : 'clips'}
                {t.takes.length > 0 && `, ${t.takes.length} ${t.takes.length === 1 ? 'take' : 'takes'}`}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <button className="btn btn-main" disabled={busy || chosen.length === 0} onClick={() => void hand()}>
          {busy ? 'Making the files…' : `Hand over ${chosen.length} ${chosen.length === 1 ? 'track' : 'tracks'}`}
        </button>
      </div>
    </Dialog>
  );
}
