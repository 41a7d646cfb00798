'use client';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { edit, position, useDoc, docNow } from '@/client';
import {
  CUE_COLUMNS,
  LETTERS,
  lettersOf,
  numberCues,
  readLetters,
  readScript,
  twiceNumbered,
  type CueColumn,
  type CueTable,
  type Letters,
  type ScriptAsked,
  type ScriptRead,
  type ScriptTimes,
} from '@/core/exchange';
import { Choice, Dialog, FileButton, Segments, timecodeOf } from '@/parts';

const COLUMN_WORDS: Record<CueColumn, string> = {
  number: 'number',
  in: 'in',
  out: 'out',
  speaker: 'character',
  text: 'words',
};
const NOTHING = 'nothing';

interface Chosen {
  name: string;
  bytes: Uint8Array;
  letters: Letters;
}

/** The text of a file, or why there is none. */
function textOf({ bytes, letters }: Chosen): { text: string; fault: string | null } {
  try {
    return { text: readLetters(bytes, letters), fault: null };
  } catch (error) {
    return { text: '', fault: (error as Error).message };
  }
}

/** A script from a file or pasted; what would come is seen before it comes, and what it does not say is asked. */
export function ImportScript({ open, onClose }: { open: boolean; onClose: () => void }) {
  const doc = useDoc('cues', 'format');
  const [text, setText] = useState('');
  const [file, setFile] = useState<Chosen | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [asked, setAsked] = useState<ScriptAsked>({});
  const read = useMemo((): ScriptRead | string | null => {
    if (fault) return fault;
    if (!text.trim()) return null;
    try {
      return readScript(docNow(), text, position(), () => `cue-${nanoid(8)}`, asked);
    } catch (error) {
      return (error as Error).message;
    }
  }, [text, asked, fault]);
  const give = (next: Chosen) => {
    const found = textOf(next);
    setFile(next);
    setText(found.text);
    setFault(found.fault);
  };
  const choose = async (chosen: File) => {
    const bytes = new Uint8Array(await chosen.arrayBuffer());
    setAsked({});
    give({ name: chosen.name, bytes, letters: lettersOf(bytes) });
  };
  const close = () => {
    setText('');
    setFile(null);
    setFault(null);
    setAsked({});
    onClose();
  };
  const ready = read !== null && typeof read !== 'string' && read.cues.length > 0 ? read : null;
  const take = (instead: boolean) => {
    if (!ready) return;
    const cues = numberCues(ready.cues, instead ? 1 : doc.cues.length + 1);
    if (edit({ type: 'addCues', cues, ...(instead ? { instead } : {}) })) close();
  };
  const twice = ready ? twiceNumbered(ready.cues) : [];
  const there = ready ? twiceNumbered(ready.cues, doc.cues).filter((n) => !twice.includes(n)) : [];
  return (
    <Dialog
      open={open}
      onClose={close}
      title="Bring in a script"
      note="A cue list (CSV), subtitles (SRT, WebVTT), or lines from a document."
      wide
    >
      <div className="mb-2 flex items-center gap-2">
        <FileButton
          label="File of a script"
          accept=".csv,.tsv,.txt,.srt,.vtt,text/*"
          onFile={(chosen) => void choose(chosen)}
        >
          Choose a file…
        </FileButton>
        {file && (
          <>
            <span className="truncate">{file.name}</span>
            <label className="small ml-auto flex shrink-0 items-center gap-1 text-quiet">
              letters
              <Choice
                look="bare"
                label="Letters of the file"
                value={file.letters}
                options={LETTERS.map((l) => ({ value: l.id, label: l.name }))}
                onChange={(letters: Letters) => give({ ...file, letters })}
              />
            </label>
          </>
        )}
      </div>
      <textarea
        aria-label="Script"
        className="field figure h-27.5 resize-none py-2"
        placeholder={
          'number,in,out,character,text\n12,10:00:23:00,10:00:26:10,Pilot,"Mind the gauge."\n\nor\n\nPILOT: Mind the gauge.'
        }
        value={text}
        onChange={(e) => {
          setFault(null);
          setText(e.target.value);
        }}
      />
      {typeof read === 'string' && (
        <p role="alert" className="mt-2 text-stop">
          {read}
        </p>
      )}
      <Asked read={read} asked={asked} text={text} onAsked={setAsked} />
      {ready && (
        <ul className="mt-2 max-h-42.5 overflow-y-auto border-y" aria-label="What would come">
          {ready.cues.slice(0, 60).map((c) => (
            <li key={c.id} className="flex gap-2 py-0.5">
              <span className="figure w-[4ch] truncate text-right">{c.number}</span>
              <span className="figure text-quiet">{timecodeOf(doc, c.start)}</span>
              <b className="w-22.5 shrink-0 truncate font-[580]">{c.character}</b>
              <span className="truncate">{c.text}</span>
            </li>
          ))}
        </ul>
      )}
      <div role="status">
        {ready?.notes.map((n) => (
          <p key={n} className="small mt-1 text-warn">
            {n}
          </p>
        ))}
        {twice.length > 0 && (
          <p className="small mt-1 text-warn">
            {twice.length === 1 ? 'Number' : 'Numbers'} {twice.join(', ')} stand{twice.length === 1 ? 's' : ''} at more
            than one cue. They come as they are; give them numbers of their own in the script.
          </p>
        )}
        {there.length > 0 && (
          <p className="small mt-1 text-warn">
            The session has {there.join(', ')} already: added to it, there would be two of each.
          </p>
        )}
      </div>
      <div className="mt-4 flex justify-end gap-2">
        {doc.cues.length > 0 && (
          <button className="btn" disabled={!ready} onClick={() => take(true)}>
            In the place of the script
          </button>
        )}
        <button className="btn btn-main" disabled={!ready} onClick={() => take(false)}>
          {ready ? `Add ${ready.cues.length} ${ready.cues.length === 1 ? 'cue' : 'cues'}` : 'Add'}
        </button>
      </div>
    </Dialog>
  );
}

interface AskedProps {
  read: ScriptRead | string | null;
  asked: ScriptAsked;
  text: string;
  onAsked: (asked: ScriptAsked) => void;
}

/** What the script does not say itself: which column holds what, and from where its times are counted. */
function Asked({ read, asked, text, onAsked }: AskedProps) {
  const known = typeof read === 'object' && read !== null ? read : null;
  const times = known?.times ?? asked.times ?? null;
  const timed = times !== null || /-->/.test(text) || /\d\d[:;]\d\d[:;]\d\d/.test(text);
  if (!text.trim() || !timed) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
      <Segments
        label="Times of the script"
        value={times ?? 'timecode'}
        options={
          [
            { value: 'timecode', label: 'timecode of the session' },
            { value: 'from the start', label: 'counted from its start' },
          ] as const
        }
        onChange={(t: ScriptTimes) => onAsked({ ...asked, times: t })}
      />
      {known?.table && (
        <Columns
          table={known.table}
          onColumns={(columns) => onAsked({ ...asked, columns })}
          onHeaded={(headed) => onAsked({ ...asked, headed })}
        />
      )}
    </div>
  );
}

function Columns({
  table: { rows, columns, headed },
  onColumns,
  onHeaded,
}: {
  table: CueTable;
  onColumns: (columns: CueTable['columns']) => void;
  onHeaded: (headed: boolean) => void;
}) {
  const width = Math.max(...rows.slice(0, 20).map((r) => r.length));
  const sample = rows[headed ? 1 : 0] ?? [];
  const options = [
    { value: NOTHING, label: 'no column' },
    ...Array.from({ length: width }, (_, c) => ({
      value: String(c),
      label: headed && rows[0]![c]?.trim() ? rows[0]![c].trim().slice(0, 24) : `column ${c + 1}`,
      note: (sample[c] ?? '').trim().slice(0, 24),
    })),
  ];
  return (
    <>
      <label className="small flex items-center gap-1.5">
        <input
          type="checkbox"
          className="accent-(--brass)"
          checked={headed}
          onChange={(e) => onHeaded(e.target.checked)}
        />
        the first line holds headings
      </label>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-0.5">
        {CUE_COLUMNS.map((name) => (
          <span key={name} className="small flex items-center gap-1 text-quiet">
            {COLUMN_WORDS[name]}
            <Choice
              look="bare"
              label={`Column of ${COLUMN_WORDS[name]}`}
              className="small"
              value={columns[name] === undefined ? NOTHING : String(columns[name])}
              options={options}
              onChange={(c) => {
                const { [name]: _before, ...rest } = columns;
                onColumns(c === NOTHING ? rest : { ...rest, [name]: Number(c) });
              }}
            />
          </span>
        ))}
      </div>
    </>
  );
}
