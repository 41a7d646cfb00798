'use client';
import { Lock, LockOpen, VolumeX } from 'lucide-react';
import { edit, preview, select, useDoc, useSelection, useDocPart } from '@/client';
import {
  FADE_CURVES,
  longestJoint,
  type Clip,
  type Fade,
  type FadeCurve,
  type Track,
  CLIP_PARAMS,
  takeText,
} from '@/core/session';
import { formatDuration } from '@/core/units';
import { Choice, fieldOf, NumberField, TextField, TimecodeField } from '@/parts';
import { AlignToGuide } from './alignToGuide';
import { Comps } from './comps';
import { toggleOpen, useFloor } from './floorState';
import { OwnFile } from './ownFile';

/** The selected clip's figures; with several, what can be done to all of them. */
export function ClipPanel() {
  const doc = useDoc('tracks');
  const { selected, clips } = useSelection();
  const track = doc.tracks.find((t) => selected?.kind === 'clip' && t.clips.some((c) => c.id === selected.id));
  const clip = track?.clips.find((c) => c.id === selected?.id);
  if (!track || !clip) return <p className="small p-3 text-quiet">Choose a clip on the timeline.</p>;
  return (
    <section className="min-h-0 flex-1 overflow-y-auto p-3" aria-label="Clip">
      {clips.length > 1 ? <Many clips={clips} /> : <One track={track} clip={clip} />}
      <Comps track={track} />
    </section>
  );
}

function Many({ clips }: { clips: readonly string[] }) {
  const doc = useDoc('tracks');
  const chosen = doc.tracks.flatMap((t) => t.clips.filter((c) => clips.includes(c.id)));
  const all = { clips: chosen.map((c) => c.id) };
  const grouped = chosen.some((c) => c.group);
  return (
    <>
      <h2 className="font-[600]">{chosen.length} clips</h2>
      <p className="small text-quiet">What is done here is done to all of them; locked ones are passed over.</p>
      <div className="mt-2 flex flex-wrap gap-1">
        <button
          className="chip"
          onClick={() => edit({ type: 'shapeClips', ...all, muted: !chosen.every((c) => c.muted) })}
        >
          {chosen.every((c) => c.muted) ? 'Unmute' : 'Mute'} {chosen.length}
        </button>
        <button
          className="chip"
          onClick={() => edit({ type: 'shapeClips', ...all, locked: !chosen.every((c) => c.locked) })}
        >
          {chosen.every((c) => c.locked) ? 'Unlock' : 'Lock'} {chosen.length}
        </button>
        <button
          className="chip"
          onClick={() => edit({ type: 'shapeClips', ...all, group: grouped ? '' : `g${Date.now().toString(36)}` })}
        >
          {grouped ? 'Ungroup' : 'Group'} {chosen.length}
        </button>
        {[-3, -1, 1, 3].map((gainBy) => (
          <button key={gainBy} className="chip figure" onClick={() => edit({ type: 'shapeClips', ...all, gainBy })}>
            {gainBy > 0 ? '+' : '−'}
            {Math.abs(gainBy)} dB
          </button>
        ))}
      </div>
    </>
  );
}

function One({ track, clip }: { track: Track; clip: Clip }) {
  const doc = useDoc('format', 'media');
  const rate = doc.format.sampleRate;
  const left = track.clips.find((c) => c.start + c.length === clip.start);
  const take = track.takes.find((t) => t.media === clip.media);
  const shown = useDocPart((d) => take && takeText(d, track, take));
  const joint = useDocPart((d) => (left ? longestJoint(d, left, clip) : 0));
  const shape = (part: object) => edit({ type: 'shapeClip', clip: clip.id, ...part });
  return (
    <>
      <div className="flex items-center gap-1">
        <TextField
          label="Name of the clip"
          value={clip.name}
          className="-ml-1 flex-1 font-[600]"
          onChange={(name) => shape({ name })}
        />
        <button
          className="chip"
          aria-label={clip.muted ? 'Unmute the clip' : 'Mute the clip'}
          title={clip.muted ? 'Unmute' : 'Mute (Shift M)'}
          aria-pressed={clip.muted ?? false}
          onClick={() => shape({ muted: !clip.muted })}
        >
          <VolumeX size={13} />
        </button>
        <button
          className="chip"
          aria-label={clip.locked ? 'Unlock the clip' : 'Lock the clip'}
          title={clip.locked ? 'Unlock (K)' : 'Lock: it neither moves nor changes (K)'}
          aria-pressed={clip.locked ?? false}
          onClick={() => shape({ locked: !clip.locked })}
        >
          {clip.locked ? <Lock size={13} /> : <LockOpen size={13} />}
        </button>
      </div>
      <p className="small truncate text-quiet" title={doc.media[clip.media]?.name}>
        {doc.media[clip.media]?.name}
        {take && (
          <>
            {' · '}
            <button
              className="underline"
              onClick={() => {
                if (!useFloor.getState().open.has(track.id)) toggleOpen(track.id);
                select({ kind: 'take', id: take.id });
              }}
            >
              show {shown}
            </button>
          </>
        )}
      </p>
      <dl className="small mt-1.5 grid grid-cols-[auto_1fr] gap-x-2 gap-y-0.5 [&_dd]:text-right [&_dt]:text-quiet">
        <dt>starts</dt>
        <dd>
          <TimecodeField
            label="Start of the clip"
            sample={clip.start}
            onChange={(start) => edit({ type: 'moveClip', clip: clip.id, start })}
            className="text-right"
          />
        </dd>
        <dt>lasts</dt>
        <dd className="figure px-1">{formatDuration(clip.length / rate)}</dd>
        <dt>gain</dt>
        <dd>
          <NumberField
            label="Gain of the clip"
            value={clip.gain}
            {...fieldOf(CLIP_PARAMS.gain)}
            plus
            onPreview={(gain) => preview({ type: 'setClipGain', clip: clip.id, gain })}
            onChange={(gain) => edit({ type: 'setClipGain', clip: clip.id, gain })}
          />
        </dd>
        <FadeRow
          label="fade in"
          fade={clip.fadeIn}
          longest={clip.length}
          rate={rate}
          onChange={(fadeIn) => shape({ fadeIn })}
        />
        <FadeRow
          label="fade out"
          fade={clip.fadeOut}
          longest={clip.length}
          rate={rate}
          onChange={(fadeOut) => shape({ fadeOut })}
        />
        {left && joint > 0 && (
          <FadeRow
            label="crossfade"
            fade={clip.joint}
            longest={joint}
            rate={rate}
            onChange={(joint) => shape({ joint })}
          />
        )}
        <dt>slip</dt>
        <dd>
          <NumberField
            label="Slip the sound within the clip"
            value={0}
            unit="ms"
            min={-10_000}
            max={10_000}
            step={1}
            reset={0}
            plus
            onChange={(ms) => ms !== 0 && edit({ type: 'slipClip', clip: clip.id, by: Math.round((ms * rate) / 1000) })}
          />
        </dd>
      </dl>
      <OwnFile clip={clip} />
      <AlignToGuide track={track} clip={clip} />
    </>
  );
}

interface FadeRowProps {
  label: string;
  fade: Fade | undefined;
  longest: number;
  rate: number;
  onChange: (fade: Fade) => void;
}

function FadeRow({ label, fade, longest, rate, onChange }: FadeRowProps) {
  const curve: FadeCurve = fade?.curve ?? 'power';
  return (
    <>
      <dt className="flex items-center">{label}</dt>
      <dd className="flex items-center justify-end">
        <Choice
          look="bare"
          label={`Law of the ${label}`}
          className="text-quiet"
          value={curve}
          options={FADE_CURVES.map((c) => ({ value: c.id, label: c.name }))}
          onChange={(c) => onChange({ frames: fade?.frames ?? Math.min(longest, Math.round(rate / 100)), curve: c })}
        />
        <NumberField
          label={`Length of the ${label}`}
          value={((fade?.frames ?? 0) * 1000) / rate}
          unit="ms"
          min={0}
          max={(longest * 1000) / rate}
          step={1}
          digits={1}
          reset={0}
          onChange={(ms) => onChange({ frames: Math.round((ms * rate) / 1000), curve })}
        />
      </dd>
    </>
  );
}
