'use client';
import { clsx } from 'clsx';
import { Ear, Scissors, Square } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { edit, hearSamples, useDoc, useSession } from '@/client';
import type { QuietPlace } from '@/core/roomTone';
import { dryOf, takeOfClip } from '@/core/session';
import { formatDb } from '@/core/units';
import { Choice, NumberField, Segments, TextField, timecodeOf } from '@/parts';
import { FromLine } from './fromLine';
import { clipTone, lineTone, placesOf, type ToneSource } from './toneSource';

const LENGTHS = [1, 1.5, 3];
/** An empty room stays below it (dBFS; common practice, no source). */
const SOUNDS_ABOVE = -45;
const ROUNDS = 2;

type From = 'line' | 'clip';

/** Cuts room tone from a line or a clip: a quiet place is found or set by hand, heard, and kept. */
export function CutTone() {
  const doc = useDoc();
  const rate = doc.format.sampleRate;
  const [from, setFrom] = useState<From>(() => (doc.tracks.some((t) => t.clips.length > 0) ? 'clip' : 'line'));
  const [seconds, setSeconds] = useState(1.5);
  const [line, setLine] = useState<ToneSource | null>(null);
  const session = useSession((s) => s.id)!;
  const clip = useClipSource();
  const source = from === 'line' ? line : clip.source;
  return (
    <div className="flex min-h-0 flex-col">
      <h3 className="mb-2 font-[580]">Cut one</h3>
      <div className="grid grid-cols-[72px_minmax(0,1fr)] items-center gap-x-3 gap-y-2">
        <span className="text-quiet">from</span>
        <Segments
          label="Where room tone is taken from"
          value={from}
          options={
            [
              { value: 'line', label: 'a line, now' },
              { value: 'clip', label: 'a clip' },
            ] as const
          }
          onChange={setFrom}
        />
        <span />
        {from === 'line' ? (
          <FromLine
            seconds={Math.ceil(seconds)}
            onSound={(samples, sampleRate) => setLine(lineTone(session, doc, samples, sampleRate))}
          />
        ) : (
          clip.choices
        )}
        <span className="text-quiet">length</span>
        <span className="flex flex-wrap items-center gap-1.5">
          {LENGTHS.map((l) => (
            <button
              key={l}
              className="chip figure"
              aria-pressed={seconds === l}
              style={seconds === l ? { borderColor: 'var(--brass)', color: 'var(--brass)' } : undefined}
              onClick={() => setSeconds(l)}
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
            onChange={setSeconds}
          />
          <span className="figure small text-quiet">{Math.round(seconds * rate)} samples</span>
        </span>
      </div>
      {source && (
        <Places
          key={`${source.key} ${seconds}`}
          source={source}
          seconds={seconds}
          timeOf={from === 'clip' ? clip.timeOf : (at) => `${(at / rate).toFixed(3)} s`}
          note={from === 'clip' ? clip.note : ', straight from the line'}
        />
      )}
    </div>
  );
}

/** Clips to cut from, and which sound of them. */
function useClipSource() {
  const doc = useDoc();
  const session = useSession((s) => s.id)!;
  const rate = doc.format.sampleRate;
  const [chosen, setChosen] = useState<string | null>(null);
  const [processed, setProcessed] = useState(false);
  const sources = doc.tracks.flatMap((t) => t.clips.map((clip) => ({ track: t, clip })));
  const found = sources.find((s) => s.clip.id === chosen) ?? sources[0];
  if (!found)
    return {
      source: null,
      note: '',
      timeOf: () => '',
      choices: <p className="small text-quiet">No clip yet to cut from. Take the room from a line instead.</p>,
    };
  const { clip } = found;
  // A gate takes the room away: what the room sounds like stands in the untouched copy.
  const dry = dryOf(doc, clip);
  const media = dry && !processed ? dry : clip.media;
  return {
    source: clipTone(session, rate, clip, media),
    note: dry ? `, from the ${processed ? 'processed sound' : 'dry copy'}` : '',
    timeOf: (at: number) => timecodeOf(doc, clip.start + at),
    choices: (
      <span className="flex min-w-0 items-center gap-2">
        <Choice
          label="Cut from"
          value={clip.id}
          options={sources.map((s) => ({
            value: s.clip.id,
            label: `${s.track.name} · ${s.clip.name}`,
            note: `${(s.clip.length / rate).toFixed(1)} s`,
          }))}
          onChange={setChosen}
        />
        {dry ? (
          <Choice
            label="Sound of the room tone"
            look="bare"
            value={processed ? 'processed' : 'dry'}
            options={[
              { value: 'dry', label: 'dry copy', note: 'as the room was' },
              { value: 'processed', label: 'through the chain', note: 'as it was recorded' },
            ]}
            onChange={(v) => setProcessed(v === 'processed')}
          />
        ) : (
          <span className="small shrink-0 text-quiet">
            {takeOfClip(doc, clip) ? 'through the chain; it has no dry copy' : 'as the file is'}
          </span>
        )}
      </span>
    ),
  };
}

interface PlacesProps {
  source: ToneSource;
  seconds: number;
  timeOf: (at: number) => string;
  note: string;
}

/** Where it is cut: quiet places that were found, or one that is set by hand; each is heard before it is kept. */
function Places({ source, seconds, timeOf, note }: PlacesProps) {
  const { format } = useDoc('format');
  const rate = format.sampleRate;
  const length = Math.round(seconds * rate);
  const [found, setFound] = useState<QuietPlace[] | null>(null);
  const [start, setStart] = useState<number | null>(null);
  const [name, setName] = useState('Room tone');
  const [busy, setBusy] = useState(false);
  const [sounding, setSounding] = useState<number | null>(null);
  const quiet = useRef<(() => void) | null>(null);
  useEffect(() => () => quiet.current?.(), []);
  const within = placesOf(source, length, rate);
  const work = async <T,>(what: () => Promise<T>, done: (answer: T) => void) => {
    setBusy(true);
    try {
      done(await what());
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  const find = () =>
    void work(
      () => source.find(length),
      (places) => {
        setFound(places);
        setStart(places[0]?.start ?? null);
      },
    );
  const silence = () => {
    quiet.current?.();
    quiet.current = null;
    setSounding(null);
  };
  // Twice round: what is heard at the joint will be heard wherever it is laid end to end.
  const hear = (at: number) => {
    silence();
    void work(
      async () => {
        const piece = await source.piece(at, length);
        return hearSamples(piece.map((c) => Float32Array.from({ length: ROUNDS * length }, (_, i) => c[i % length]!)));
      },
      (end) => {
        const timer = setTimeout(silence, ROUNDS * seconds * 1000);
        quiet.current = () => {
          clearTimeout(timer);
          end();
        };
        setSounding(at);
      },
    );
  };
  const keep = () =>
    void work(
      () => source.keep(start!, length, name),
      (media) => {
        if (edit({ type: 'addRoomTone', id: `tone-${nanoid(8)}`, name, media }))
          toast.success(`${name}, ${length} samples${note}, is on the shelf as ${media.name}.`);
      },
    );
  if (!within)
    return (
      <p className="small mt-3 text-warn">
        No stretch of this length is there; choose a shorter one, or another clip or line.
      </p>
    );
  const rows = [...(found ?? []), ...(start === null || found?.some((p) => p.start === start) ? [] : [{ start }])];
  return (
    <>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <button className="btn" data-action="lineup.quiet" disabled={busy} onClick={find}>
          <Ear size={14} /> Find a quiet place
        </button>
        <label className="flex items-center gap-1 text-quiet">
          or begin at
          <NumberField
            label="Start of the room tone"
            value={(start ?? within[0]) / rate}
            unit="s"
            min={Math.ceil((within[0] / rate) * 1000) / 1000}
            max={Math.floor((within[1] / rate) * 1000) / 1000}
            step={0.01}
            digits={3}
            onChange={(s) => setStart(Math.min(within[1], Math.max(within[0], Math.round(s * rate))))}
          />
        </label>
      </div>
      {found?.length === 0 && <p className="small mt-3 text-warn">Nothing in it is quiet for so long.</p>}
      <ol className="mt-2 min-h-0 overflow-y-auto" aria-label="Quiet places">
        {rows.map((p) => (
          <li key={p.start} className="flex items-center gap-2 border-b">
            <button
              aria-label={sounding === p.start ? 'Silence' : `Hear what begins at ${timeOf(p.start)}`}
              title="Hear it, twice round"
              className={clsx(
                'grid size-6 shrink-0 place-items-center',
                sounding === p.start ? 'text-brass' : 'text-quiet',
              )}
              onClick={() => (sounding === p.start ? silence() : hear(p.start))}
            >
              {sounding === p.start ? <Square size={12} /> : <Ear size={14} />}
            </button>
            <button
              className={clsx(
                'flex h-7.5 w-full items-center gap-3 text-left',
                p.start === start ? 'font-[600]' : 'text-quiet',
              )}
              aria-pressed={p.start === start}
              onClick={() => setStart(p.start)}
            >
              <span className="figure">{timeOf(p.start)}</span>
              {'level' in p ? (
                <>
                  <span className="figure">{formatDb(p.level)} dBFS</span>
                  <span className="small">loudest twentieth {formatDb(p.loudest)}</span>
                  {p.loudest > SOUNDS_ABOVE && <span className="small text-warn">not empty: something sounds</span>}
                </>
              ) : (
                <span className="small">set by hand</span>
              )}
            </button>
          </li>
        ))}
      </ol>
      <div className="mt-2 flex items-center gap-2">
        <span className="text-quiet">name</span>
        <TextField
          label="Name of the room tone"
          value={name}
          maxLength={60}
          className="flex-1 border-line!"
          onChange={setName}
        />
        <button className="btn btn-main shrink-0" disabled={busy || start === null} onClick={keep}>
          <Scissors size={14} /> Cut {seconds} s
        </button>
      </div>
    </>
  );
}
