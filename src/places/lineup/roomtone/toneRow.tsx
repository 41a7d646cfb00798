'use client';
import { Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { edit, useDoc, useTransport } from '@/client';
import { widthOf } from '@/core/speakers';
import type { RoomTone as Tone, Track } from '@/core/session';
import { Choice, TextField, timecodeOf } from '@/parts';

/** A room tone on the shelf: renamed, dropped in at the playhead, filled into gaps. */
export function ToneRow({ tone }: { tone: Tone }) {
  const doc = useDoc('media', 'tracks', 'format', 'range');
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
