'use client';
import { clsx } from 'clsx';
import { Check, FileText, Mic, Plus, Search, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useEffect, useMemo, useRef, useState } from 'react';
import { chooseCue, edit, locate, position, useCue, useDoc, useTransport, useDocPart, docNow } from '@/client';
import { armForCue, cueState, takesOfCue, trackOfCharacter, type Cue, type CueState } from '@/core/session';
import { Choice, TextField, TimecodeField, timecodeOf } from '@/parts';
import { CUE_COLOUR } from '../lanes';
import { useFloor } from '../floorState';
import { ImportScript } from './importScript';
import { PromptMenu } from './promptMenu';
import { shownCues, type CueFilter } from './shownCues';

const STATES: CueState[] = ['open', 'recorded', 'circled', 'done'];
const ALL = 'all';

/** The lines to be spoken: found, chosen, edited in place; each with how far it has come. */
export function Script() {
  const doc = useDoc('cues', 'format');
  const [importing, setImporting] = useState(false);
  const filter = useFloor((s) => s.cues);
  const { words, character, state } = filter;
  const show = (part: Partial<CueFilter>) => useFloor.setState({ cues: { ...filter, ...part } });
  const characters = useMemo(() => [...new Set(doc.cues.map((c) => c.character).filter(Boolean))].sort(), [doc.cues]);
  const found = useDocPart((d) => shownCues(d, filter));
  const add = () => {
    const start = position();
    edit({
      type: 'addCues',
      cues: [
        {
          id: `cue-${nanoid(8)}`,
          number: String(doc.cues.length + 1),
          start,
          end: start + 3 * doc.format.sampleRate,
          character,
          text: '',
        },
      ],
    });
  };
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Script">
      <div className="flex items-center gap-1 px-3 pb-1 pt-2">
        <span className="small text-quiet">
          {found.length === doc.cues.length ? `${doc.cues.length} cues` : `${found.length} of ${doc.cues.length} cues`}
        </span>
        <span className="ml-auto flex">
          <button className="chip border-0" aria-label="New cue here" title="Add a cue at the playhead" onClick={add}>
            <Plus size={14} />
          </button>
          <button
            className="chip border-0"
            aria-label="Bring in a script"
            title="Bring in a script"
            onClick={() => setImporting(true)}
          >
            <FileText size={14} />
          </button>
          <PromptMenu />
        </span>
      </div>
      {doc.cues.length > 0 && (
        <div className="flex items-center gap-1 px-3 pb-1.5">
          <label className="field flex h-6 min-w-0 flex-1 items-center gap-1 px-1.5">
            <Search size={12} className="shrink-0 text-quiet" />
            <input
              aria-label="Search the script"
              className="small w-full bg-transparent outline-none"
              value={words}
              onChange={(e) => show({ words: e.target.value })}
            />
          </label>
          <Choice
            look="bare"
            label="Characters shown"
            className="small"
            value={character || ALL}
            options={[{ value: ALL, label: 'everybody' }, ...characters.map((c) => ({ value: c, label: c }))]}
            onChange={(who) => show({ character: who === ALL ? '' : who })}
          />
          <Choice
            look="bare"
            label="States shown"
            className="small"
            value={state ?? ALL}
            options={[{ value: ALL, label: 'all' }, ...STATES.map((s) => ({ value: s, label: s }))]}
            onChange={(s: CueState | 'all') => show({ state: s === ALL ? null : s })}
          />
        </div>
      )}
      <ol className="min-h-0 flex-1 overflow-y-auto">
        {found.map((cue) => (
          <CueRow key={cue.id} cue={cue} />
        ))}
        {doc.cues.length === 0 && (
          <li className="px-3 pt-1">
            <p className="small mb-2 text-quiet">
              No script yet. Bring in a cue list (CSV), subtitles (SRT, WebVTT), or paste lines.
            </p>
            <button className="btn btn-main" onClick={() => setImporting(true)}>
              <FileText size={14} /> Bring in a script
            </button>
          </li>
        )}
      </ol>
      <ImportScript open={importing} onClose={() => setImporting(false)} />
    </section>
  );
}

function CueRow({ cue }: { cue: Cue }) {
  const doc = useDoc('format');
  const chosen = useCue((s) => s.chosen === cue.id);
  const recording = useTransport((s) => s.plan?.cue === cue.id);
  const row = useRef<HTMLLIElement>(null);
  const state = useDocPart((d) => cueState(d, cue));
  const takes = useDocPart((d) => takesOfCue(d, cue.id).length);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <li
      ref={row}
      className={clsx(
        'border-b border-l-[3px] px-3 py-2',
        recording ? 'border-l-rec bg-rec/10' : chosen ? 'border-l-brass bg-raised' : 'border-l-transparent',
      )}
      data-cue={cue.number}
      data-state={state}
      aria-current={chosen}
    >
      <button
        className="flex w-full items-baseline gap-1.5 text-left"
        title="Choose the cue and go to it"
        onClick={() => {
          chooseCue(cue.id);
          locate(cue.start);
        }}
      >
        <span
          className="size-1.75 shrink-0 self-center rounded-full"
          style={{ background: CUE_COLOUR[state] }}
          title={state}
        />
        <span className="figure font-[620]">{cue.number}</span>
        <b className="truncate font-[580]">{cue.character}</b>
        {takes > 0 && (
          <span className="small text-quiet">
            {takes} {takes === 1 ? 'take' : 'takes'}
          </span>
        )}
        <span className="figure ml-auto text-quiet">{timecodeOf(doc, cue.start)}</span>
      </button>
      {chosen ? (
        <CueFields cue={cue} />
      ) : (
        <p className={clsx('leading-snug', state === 'done' && 'text-quiet')}>
          {cue.text || <span className="text-quiet">no words yet</span>}
        </p>
      )}
    </li>
  );
}

/** The chosen cue, all of it to be written over. */
function CueFields({ cue }: { cue: Cue }) {
  const own = useDocPart((doc) => trackOfCharacter(doc, cue.character));
  const set = (part: object) => edit({ type: 'setCue', cue: cue.id, ...part });
  return (
    <div className="mt-1 flex flex-col gap-1">
      <textarea
        key={cue.text}
        aria-label="Words of the cue"
        defaultValue={cue.text}
        rows={Math.min(6, Math.max(1, Math.ceil(cue.text.length / 38)))}
        maxLength={2000}
        className="w-full resize-none rounded-sm border border-transparent bg-transparent px-1 leading-snug hover:border-line focus:border-brass focus:outline-none"
        onBlur={(e) => e.target.value !== cue.text && set({ text: e.target.value })}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key !== 'Escape') return;
          e.currentTarget.value = cue.text;
          e.currentTarget.blur();
        }}
      />
      <div className="small flex items-center gap-1 text-quiet">
        <TimecodeField
          label="Cue in"
          sample={cue.start}
          className="w-[13ch]!"
          onChange={(start) => set({ start, end: Math.max(cue.end, start) })}
        />
        →
        <TimecodeField label="Cue out" sample={cue.end} className="w-[13ch]!" onChange={(end) => set({ end })} />
      </div>
      <div className="flex items-center gap-1">
        <TextField
          label="Character"
          value={cue.character}
          placeholder="character"
          mayBeEmpty
          className="small w-19"
          onChange={(character) => set({ character })}
        />
        <TextField
          label="Note on the cue"
          value={cue.note}
          placeholder="note"
          mayBeEmpty
          maxLength={500}
          className="small flex-1 text-quiet"
          onChange={(note) => set({ note })}
        />
        {own && (
          <button
            className="chip"
            aria-label={`Arm ${own.name} for this cue`}
            title={`Arm ${own.name} for this cue, and no other character (Shift A)`}
            aria-pressed={own.armed}
            style={own.armed ? { color: 'var(--rec)' } : undefined}
            onClick={() => {
              const edits = armForCue(docNow(), cue);
              if (edits.length) edit(...edits);
            }}
          >
            <Mic size={13} />
          </button>
        )}
        <button
          className="chip"
          aria-pressed={cue.done}
          title={cue.done ? 'Open again' : 'Done'}
          aria-label={cue.done ? 'Open the cue again' : 'Mark the cue done'}
          style={cue.done ? { color: 'var(--fine)' } : undefined}
          onClick={() => set({ done: !cue.done })}
        >
          <Check size={13} />
        </button>
        <button
          className="chip"
          aria-label="Remove the cue"
          title="Remove the cue"
          onClick={() => edit({ type: 'removeCues', cues: [cue.id] })}
        >
          <Trash2 size={13} />
        </button>
      </div>
    </div>
  );
}
