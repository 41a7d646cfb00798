'use client';
import { clsx } from 'clsx';
import { Circle, Play, SkipBack, Square } from 'lucide-react';
import { useRef } from 'react';
import {
  chosenCue,
  edit,
  leavingKey,
  locate,
  position,
  preview,
  readLoudness,
  record,
  setMode,
  toggle,
  useCue,
  useDoc,
  useTransport,
  useInRoom,
  useMeterSpeakers,
  useDocPart,
} from '@/client';
import { referenceOf, type Bus, type RecordMode as Mode, monitorOf, MONITOR_PARAMS } from '@/core/session';
import { formatDb } from '@/core/units';
import {
  Choice,
  fieldOf,
  Meter,
  NumberField,
  TimecodeField,
  timecodeOf,
  Tip,
  useFrame,
  useMonitorWay,
  drawText,
} from '@/parts';
import { RecordState } from './recordState';

export function RollBar() {
  const doc = useDoc('range');
  const monitor = useDocPart(monitorOf);
  const { state } = useTransport();
  const recording = state === 'recording';
  return (
    <footer
      className={clsx(
        'flex min-w-0 items-center gap-4 bg-panel px-4 max-[1180px]:gap-2',
        recording ? 'border-t-[3px] border-rec' : 'border-t',
      )}
      data-roll={state}
    >
      <div className="flex gap-2">
        <Tip text="To the start of the range" keys="home">
          <button
            aria-label="To the start"
            className="btn size-8.5 justify-center p-0"
            disabled={recording}
            onClick={() => locate(doc.range.start)}
          >
            <SkipBack size={16} />
          </button>
        </Tip>
        <Tip text={state === 'stopped' ? 'Play' : 'Stop'} keys="space">
          <button
            aria-label={state === 'stopped' ? 'Play' : 'Stop'}
            className="btn size-8.5 justify-center p-0"
            onClick={toggle}
          >
            {state === 'stopped' ? <Play size={16} /> : <Square size={15} />}
          </button>
        </Tip>
        <Tip text={recording ? 'Stop recording' : 'Record on all armed tracks'} keys="r">
          <button
            aria-label={recording ? 'Stop recording' : 'Record'}
            className="btn size-8.5 justify-center border-rec p-0"
            style={recording ? { background: 'var(--rec)', color: 'var(--on-rec)' } : { color: 'var(--rec)' }}
            onClick={() => void record()}
          >
            <Circle size={15} fill={recording ? 'currentColor' : 'none'} strokeWidth={2.4} />
          </button>
        </Tip>
      </div>
      <Clock />
      <div className="small leading-4.5">
        <div className="flex items-center gap-0.5">
          <span className="w-10.5 text-quiet">Range</span>
          <TimecodeField
            label="Start of the range"
            sample={doc.range.start}
            onChange={(start) => edit({ type: 'setRange', start, end: doc.range.end })}
          />
          <span className="text-quiet">→</span>
          <TimecodeField
            label="End of the range"
            sample={doc.range.end}
            onChange={(end) => edit({ type: 'setRange', start: doc.range.start, end })}
          />
        </div>
        <RecordMode />
      </div>
      <RecordState />
      <div className="small ml-auto leading-5">
        <div className="flex items-center gap-1.5">
          <span className="text-quiet">Monitor</span>
          <MonitorWay />
        </div>
        <div className="flex items-center gap-1">
          <NumberField
            label="Monitor level"
            value={monitor.level}
            {...fieldOf(MONITOR_PARAMS.level)}
            className="-ml-1"
            onPreview={(level) => preview({ type: 'setMonitor', level })}
            onChange={(level) => edit({ type: 'setMonitor', level })}
          />
          <button
            className="chip h-4.5"
            aria-pressed={monitor.dimmed}
            onClick={() => edit({ type: 'setMonitor', dimmed: !monitor.dimmed })}
          >
            dim
          </button>
          <button
            className="chip h-4.5"
            aria-pressed={monitor.muted}
            onClick={() => edit({ type: 'setMonitor', muted: !monitor.muted })}
          >
            mute
          </button>
        </div>
      </div>
      <ReferenceMeter />
      <Loudness />
    </footer>
  );
}

/** In which layout the monitor is heard, and where. */
function MonitorWay() {
  const { heardAs } = useInRoom();
  const way = useMonitorWay();
  return (
    <span className={clsx('w-34 truncate', heardAs && 'text-warn')} title={way} data-testid="monitor-way">
      {way}
    </span>
  );
}

function Clock() {
  const doc = useDoc('format');
  const text = useRef<HTMLInputElement>(null);
  const { state, position: at } = useTransport();
  useFrame(() => {
    if (text.current && state !== 'stopped' && document.activeElement !== text.current)
      text.current.value = timecodeOf(doc, position());
  });
  if (state === 'stopped')
    return (
      <TimecodeField
        label="Locate"
        sample={at}
        onChange={locate}
        className="w-[13ch]! text-clock max-[1180px]:text-word"
      />
    );
  return (
    <input
      ref={text}
      readOnly
      aria-label="Timecode"
      defaultValue={timecodeOf(doc, at)}
      tabIndex={-1}
      className={clsx(
        'figure w-[13ch] bg-transparent px-1 text-clock outline-none max-[1180px]:text-word',
        state === 'recording' && 'text-rec',
      )}
    />
  );
}

const MODES: { value: Mode; label: string; note: string }[] = [
  { value: 'free', label: 'from the playhead', note: 'until stopped' },
  { value: 'range', label: 'the stretch', note: 'chosen on the ruler, with pre-roll' },
  { value: 'cue', label: 'the cue', note: 'with beeps before the first word' },
  { value: 'loop', label: 'round and round', note: 'the stretch, a take per round' },
];

/** What the record key records, and how long one hears what is before and after. */
function RecordMode() {
  const { settings } = useDoc('settings');
  const { mode } = useTransport();
  useCue();
  const cue = chosenCue();
  const seconds = (label: string, value: number, onChange: (value: number) => void) => (
    <NumberField label={label} value={value} unit="s" min={0} max={30} step={0.5} digits={1} onChange={onChange} />
  );
  return (
    <div className="flex items-center">
      <span className="w-10.5 text-quiet">Record</span>
      <Choice look="bare" label="What the record key records" value={mode} options={MODES} onChange={setMode}>
        {mode === 'cue' && cue ? `cue ${cue.number}` : MODES.find((m) => m.value === mode)!.label}
      </Choice>
      {mode !== 'free' && (
        <>
          <span className="ml-1 text-quiet">pre</span>
          {seconds('Pre-roll', settings.preRoll, (preRoll) => edit({ type: 'setSession', preRoll }))}
          <span className="text-quiet">post</span>
          {seconds('Post-roll', settings.postRoll, (postRoll) => edit({ type: 'setSession', postRoll }))}
        </>
      )}
    </div>
  );
}

function ReferenceMeter() {
  const reference = useDocPart(referenceOf);
  return reference ? <MeterOf bus={reference} /> : null;
}

function MeterOf({ bus }: { bus: Bus }) {
  const speakers = useMeterSpeakers(bus.layout);
  return (
    <div
      className="grid w-52.5 min-w-27.5 shrink grid-flow-col max-[1180px]:hidden grid-rows-3 gap-x-3"
      style={{ gridAutoColumns: 'minmax(0, 1fr)' }}
      data-testid="reference-meter"
    >
      {speakers.map((s) => (
        <div key={s.label} className="flex h-4 items-center gap-1.5">
          <span className="w-5.75 text-small leading-none text-quiet">{s.label}</span>
          <Meter keys={[leavingKey(bus.id, s.channel)]} label={`Reference ${s.label}`} className="flex-1" />
        </div>
      ))}
    </div>
  );
}

function Loudness() {
  const short = useRef<HTMLSpanElement>(null);
  const whole = useRef<HTMLSpanElement>(null);
  useFrame(() => {
    const l = readLoudness();
    drawText(whole.current, formatDb(l.integrated));
    drawText(short.current, formatDb(l.shortTerm));
  });
  return (
    <div
      className="w-26 shrink-0 text-right leading-tight"
      title="Integrated loudness since rolling began, and short-term"
    >
      <div>
        <span ref={whole} className="figure text-lead" data-testid="reference-loudness">
          –∞
        </span>{' '}
        <span className="small text-quiet">LUFS</span>
      </div>
      <div className="small text-quiet">
        short{' '}
        <span ref={short} className="figure">
          –∞
        </span>
      </div>
    </div>
  );
}
