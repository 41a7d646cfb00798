'use client';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { testSound, useInRoom, useTransport } from '@/client';
import type { Room } from '@/core/rooms';
import type { SignalKind } from '@/core/signals';
import { layoutOf } from '@/core/speakers';
import { Choice, NumberField } from '@/parts';

/** Labels of the speakers that a test signal sounds on. */
export const useTest = create<{ sounding: readonly string[] }>(() => ({ sounding: [] }));

type Kind = 'pink' | 'sine' | 'sweep' | 'speech' | 'beeps';
const KINDS: readonly { value: Kind; label: string }[] = [
  { value: 'pink', label: 'pink noise' },
  { value: 'speech', label: 'speech-band noise' },
  { value: 'sine', label: 'sine' },
  { value: 'sweep', label: 'sweep' },
  { value: 'beeps', label: 'beeps that count' },
];

/** Louder than this is asked about (common practice, no source: one starts low). */
const LOUD = -20;
/** Of a round trip each speaker sounds for so long (ms), two rounds of its beeps where they count. */
const EACH = 2000;
/** Band of speech that an LFE's neighbours are checked with, Hz (common practice, no source). */
const SPEECH = [250, 4000] as const;

function signalOf(kind: Kind, level: number, frequency: number, index: number): SignalKind {
  if (kind === 'sine') return { kind, level, frequency };
  if (kind === 'sweep') return { kind, level, from: 20, to: 20_000, seconds: 8 };
  if (kind === 'beeps') return { kind, level, count: index + 1 };
  return { kind: 'pink', level, ...(kind === 'speech' ? { band: SPEECH } : {}) };
}

function silence(): void {
  testSound(null);
  useTest.setState({ sounding: [] });
}

/** Sounds to try loudspeakers with: one, all, or one after the other. Nothing of it reaches a print. */
export function TestPanel({ room, chosen }: { room: Room; chosen: number }) {
  const sounds = useInRoom((s) => s.sounds);
  const stopped = useTransport((s) => s.state === 'stopped');
  const recording = useTransport((s) => s.state === 'recording');
  const [kind, setKind] = useState<Kind>('pink');
  const [level, setLevel] = useState(-40);
  const [frequency, setFrequency] = useState(1000);
  const [on, setOn] = useState<'one' | 'all' | 'round' | null>(null);
  const [turn, setTurn] = useState(0);
  const [asked, setAsked] = useState<'one' | 'all' | 'round' | null>(null);
  const { speakers } = layoutOf(room.layout);
  const at = on === 'round' ? turn % room.speakers.length : chosen;
  useEffect(() => {
    if (!on) return;
    const indices = on === 'all' ? room.speakers.map((_, i) => i) : [at];
    useTest.setState({ sounding: indices.map((i) => room.speakers[i]!.label) });
    testSound({
      parts: indices.map((channel) => ({ channel, signal: signalOf(kind, level, frequency, channel) })),
      glides: true,
    });
  }, [on, at, kind, level, frequency, room]);
  useEffect(() => {
    if (on !== 'round') return;
    const timer = setInterval(() => setTurn((t) => t + 1), EACH);
    return () => clearInterval(timer);
  }, [on]);
  const end = () => {
    setOn(null);
    silence();
  };
  useEffect(() => silence, []);
  // What plays is heard undisturbed: the test ends with the first key of play.
  useEffect(() => {
    if (stopped) return;
    setOn(null);
    silence();
  }, [stopped]);
  const begin = (what: 'one' | 'all' | 'round', knowingly = false) => {
    if (level > LOUD && !knowingly) return setAsked(what);
    setAsked(null);
    setTurn(0);
    setOn(what);
  };
  const name = room.speakers[at]?.label ?? '';
  return (
    <section className="border-t px-4 py-2.5" aria-label="Test signal">
      <div className="flex flex-wrap items-center gap-2">
        <Choice className="w-42.5" label="Test signal" value={kind} options={KINDS} onChange={setKind} />
        {kind === 'sine' && (
          <NumberField
            label="Frequency"
            unit="Hz"
            value={frequency}
            min={20}
            max={20_000}
            step={1}
            digits={0}
            log
            onChange={setFrequency}
          />
        )}
        <NumberField
          label="Level of the test signal"
          unit="dBFS"
          value={level}
          min={-80}
          max={0}
          step={1}
          digits={0}
          reset={-40}
          onChange={setLevel}
        />
        <span className="ml-auto flex gap-2">
          {(['one', 'all', 'round'] as const).map((what) => (
            <button
              key={what}
              className="btn"
              aria-pressed={on === what}
              disabled={!sounds || recording}
              title={
                recording
                  ? 'A take is being recorded: nothing sounds in the room meanwhile'
                  : sounds
                    ? undefined
                    : 'The loudspeakers of the room do not sound: choose an output that is there'
              }
              onClick={() => (on === what ? end() : begin(what))}
            >
              {what === 'one' ? `On ${room.speakers[chosen]?.label ?? ''}` : what === 'all' ? 'On all' : 'Round trip'}
            </button>
          ))}
        </span>
      </div>
      <p className="small mt-1.5 h-4.5 text-quiet" role="status">
        {asked ? (
          <>
            {level} dBFS is loud.{' '}
            <button className="underline" onClick={() => begin(asked, true)}>
              Sound it at {level} dBFS
            </button>{' '}
            or{' '}
            <button
              className="underline"
              onClick={() => {
                setLevel(-40);
                setAsked(null);
              }}
            >
              start at −40
            </button>
          </>
        ) : on === 'all' ? (
          'All sound.'
        ) : on ? (
          `${name} sounds${kind === 'beeps' ? `: ${at + 1} ${at === 0 ? 'beep' : 'beeps'}` : ''}${speakers[at]!.lfe ? ', low' : ''}.`
        ) : (
          'It starts low, sounds on this machine’s loudspeakers only, and is never printed.'
        )}
      </p>
    </section>
  );
}
