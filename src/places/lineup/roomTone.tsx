'use client';
import { Ear, Scissors, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, edit, useDoc, useSession, useTransport } from '@/client';
import { widthOf } from '@/core/speakers';
import { formatDb } from '@/core/units';
import {
  dryOf,
  takeOfClip,
  type Clip,
  type MediaRef,
  type RoomTone as Tone,
  type SessionDoc,
  type Track,
} from '@/core/session';
import { Choice, NumberField, TextField, timecodeOf } from '@/parts';
import { Leftovers } from './leftovers';

const LENGTHS = [1, 1.5, 3];
/** An empty room stays below it (dBFS; common practice, no source). */
const SOUNDS_ABOVE = -45;

interface Place {
  start: number;
  level: number;
  loudest: number;
}

/** The sound of the empty room: cut at a quiet place to an exact length, at hand, dropped in or filled into gaps. */
export function RoomTone() {
  const doc = useDoc();
  return (
    <section aria-label="Room tone" className="grid min-h-0 flex-1 grid-cols-2 gap-8 px-4 pt-3">
      <CutTone />
      <div className="flex min-h-0 flex-col">
        <div className="mb-1 flex items-baseline justify-between">
          <h3 className="font-[580]">On the shelf</h3>
          <Leftovers />
        </div>
        {doc.shelf.length === 0 && (
          <p className="small text-quiet">Nothing yet. Record the empty room on a track, then cut it here.</p>
        )}
        <ol className="min-h-0 overflow-y-auto">
          {doc.shelf.map((tone) => (
            <ToneRow key={tone.id} tone={tone} />
          ))}
        </ol>
      </div>
    </section>
  );
}

const isTake = (doc: SessionDoc, clip: Clip): boolean => takeOfClip(doc, clip) !== undefined;

function CutTone() {
  const doc = useDoc();
  const session = useSession((s) => s.id);
  const rate = doc.format.sampleRate;
  const sources = doc.tracks.flatMap((t) => t.clips.map((clip) => ({ track: t, clip })));
  const [chosen, setChosen] = useState<string | null>(null);
  const [seconds, setSeconds] = useState(1.5);
  const [name, setName] = useState('Room tone');
  const [places, setPlaces] = useState<Place[] | null>(null);
  const [pick, setPick] = useState(0);
  const [busy, setBusy] = useState(false);
  const [processed, setProcessed] = useState(false);
  const source = sources.find((s) => s.clip.id === chosen) ?? sources[0];
  if (!source)
    return <p className="small text-quiet">No clip yet to cut from. Record the empty room on a track in the Floor.</p>;
  const { clip } = source;
  const length = Math.round(seconds * rate);
  // A gate takes the room away: what the room sounds like stands in the untouched copy.
  const dry = dryOf(doc, clip);
  const media = dry && !processed ? dry : clip.media;
  const asked = { media, from: clip.offset, to: clip.offset + clip.length, length };
  const work = async <T,>(more: object, done: (answer: T) => void) => {
    setBusy(true);
    try {
      done(await ask<T>(`/api/sessions/${session}/roomtone`, { ...asked, ...more }));
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  const find = () =>
    void work<{ places: Place[] }>({}, (a) => {
      setPlaces(a.places);
      setPick(0);
    });
  const cut = () =>
    void work<MediaRef>({ start: places![pick]!.start, name }, (media) => {
      if (edit({ type: 'addRoomTone', id: `tone-${nanoid(8)}`, name, media }))
        toast.success(
          `${name}, ${length} samples${dry ? `, from the ${processed ? 'processed sound' : 'dry copy'}` : ''}, is on the shelf as ${media.name}.`,
        );
    });
  const change = (then: () => void) => {
    setPlaces(null);
    then();
  };
  return (
    <div className="flex min-h-0 flex-col">
      <h3 className="mb-2 font-[580]">Cut one</h3>
      <div className="grid grid-cols-[92px_1fr] items-center gap-x-3 gap-y-2">
        <span className="text-quiet">from</span>
        <Choice
          label="Cut from"
          value={clip.id}
          options={sources.map((s) => ({
            value: s.clip.id,
            label: `${s.track.name} · ${s.clip.name}`,
            note: `${(s.clip.length / rate).toFixed(1)} s`,
          }))}
          onChange={(v) => change(() => setChosen(v))}
        />
        <span className="text-quiet">sound</span>
        {dry ? (
          <Choice
            label="Sound of the room tone"
            value={processed ? 'processed' : 'dry'}
            options={[
              { value: 'dry', label: 'dry copy', note: 'as the room was' },
              { value: 'processed', label: 'through the chain', note: 'as it was recorded' },
            ]}
            onChange={(v) => change(() => setProcessed(v === 'processed'))}
          />
        ) : (
          <span className="text-quiet">
            {isTake(doc, clip) ? 'through the chain; it has no dry copy' : 'as the file is'}
          </span>
        )}
        <span className="text-quiet">length</span>
        <span className="flex items-center gap-1.5">
          {LENGTHS.map((l) => (
            <button
              key={l}
              className="chip figure"
              aria-pressed={seconds === l}
              style={seconds === l ? { borderColor: 'var(--brass)', color: 'var(--brass)' } : undefined}
              onClick={() => change(() => setSeconds(l))}
            >
              {l} s
            </button>
          ))}
          <NumberField
            label="Length of the room tone"
            value={seconds}
            unit="s"
            min={0.1}
            max={60}
            step={0.001}
            digits={3}
            onChange={(v) => change(() => setSeconds(v))}
          />
          <span className="figure small text-quiet">{length} samples</span>
        </span>
        <span className="text-quiet">name</span>
        <TextField
          label="Name of the room tone"
          value={name}
          maxLength={60}
          className="border-line!"
          onChange={setName}
        />
      </div>
      <div className="mt-3 flex gap-2">
        <button className="btn" data-action="lineup.quiet" disabled={busy} onClick={find}>
          <Ear size={14} /> Find a quiet place
        </button>
        <button className="btn btn-main" disabled={busy || !places?.length} onClick={cut}>
          <Scissors size={14} /> Cut {seconds} s
        </button>
      </div>
      {places?.length === 0 && (
        <p className="small mt-3 text-warn">
          No stretch of this length is there; choose a shorter one or another clip.
        </p>
      )}
      <ol className="mt-3 min-h-0 overflow-y-auto" aria-label="Quiet places">
        {places?.map((p, i) => (
          <li key={p.start} className="border-b">
            <button
              className={`flex h-[30px] w-full items-center gap-3 text-left ${i === pick ? 'font-[600]' : 'text-quiet'}`}
              aria-pressed={i === pick}
              onClick={() => setPick(i)}
            >
              <span className="figure">{timecodeOf(doc, clip.start + p.start - clip.offset)}</span>
              <span className="figure">{formatDb(p.level)} dBFS</span>
              <span className="small">loudest twentieth {formatDb(p.loudest)}</span>
              {p.loudest > SOUNDS_ABOVE && <span className="small text-warn">not empty: something sounds</span>}
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}

function ToneRow({ tone }: { tone: Tone }) {
  const doc = useDoc();
  const position = useTransport((s) => s.position);
  const media = doc.media[tone.media];
  const fits = doc.tracks.filter((t) => media && widthOf(t.layout) === media.channels);
  const [to, setTo] = useState<string | null>(null);
  const track: Track | undefined = fits.find((t) => t.id === to) ?? fits.find((t) => /tone/i.test(t.name)) ?? fits[0];
  return (
    <li className="border-b py-1.5" data-tone={tone.name}>
      <div className="flex items-center gap-2">
        <TextField
          label={`Name of ${tone.name}`}
          value={tone.name}
          maxLength={60}
          className="flex-1 font-[560]"
          onChange={(name) => edit({ type: 'nameRoomTone', tone: tone.id, name })}
        />
        <span className="figure text-quiet" title={`${tone.frames} samples`}>
          {(tone.frames / doc.format.sampleRate).toFixed(3)} s
        </span>
        <button
          aria-label={`Take ${tone.name} off the shelf`}
          title="Off the shelf; clips and file stay"
          className="text-quiet hover:text-stop"
          onClick={() => edit({ type: 'removeRoomTones', tones: [tone.id] })}
        >
          <Trash2 size={13} />
        </button>
      </div>
      {track && media && (
        <div className="small mt-1 flex items-center gap-1.5 text-quiet">
          <Choice
            label={`Track for ${tone.name}`}
            look="bare"
            className="small"
            value={track.id}
            options={fits.map((t) => ({ value: t.id, label: t.name }))}
            onChange={setTo}
          />
          <button
            className="chip ml-auto"
            title={`At ${timecodeOf(doc, position)}`}
            onClick={() => edit({ type: 'addClip', id: `clip-${nanoid(8)}`, track: track.id, start: position, media })}
          >
            Drop at the playhead
          </button>
          <button
            className="chip"
            onClick={() =>
              edit({ type: 'fillGaps', tone: tone.id, track: track.id, ...doc.range, id: `fill-${nanoid(6)}` })
            }
          >
            Fill the gaps of the range
          </button>
        </div>
      )}
    </li>
  );
}
