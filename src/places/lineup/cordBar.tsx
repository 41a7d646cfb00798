'use client';
import { ArrowLeftRight, Unplug } from 'lucide-react';
import { useDoc } from '@/client';
import { moveCord, type SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { Choice } from '@/parts';
import { patchTold, unpatch } from './patching';

/** One end of a cord: a channel of a track. */
export interface CordEnd {
  track: string;
  channel: number;
}

/** What a channel of a track is called: "Pilot", "Boat R". */
export function channelName(doc: SessionDoc, { track: id, channel }: CordEnd): string {
  const track = doc.tracks.find((t) => t.id === id);
  if (!track) return 'a track that is gone';
  const { speakers } = layoutOf(track.layout);
  return speakers.length > 1 ? `${track.name} ${speakers[channel]?.label ?? channel + 1}` : track.name;
}

const keyOf = ({ track, channel }: CordEnd): string => `${track}:${channel}`;

/** The chosen cord in words: moved to another channel, where it changes places with what is there, or taken out. */
export function CordBar({ cord, onMoved }: { cord: CordEnd; onMoved: (cord: CordEnd | null) => void }) {
  const doc = useDoc();
  const line = doc.lines.find((l) => l.id === doc.tracks.find((t) => t.id === cord.track)?.inputs[cord.channel]);
  if (!line) return null;
  const all = doc.tracks.flatMap((t) => t.inputs.map((_, channel): CordEnd => ({ track: t.id, channel })));
  return (
    <div className="flex items-center gap-3 border-t px-4 py-1.5" role="group" aria-label="The chosen cord">
      <span className="truncate">
        <b className="font-[580]">{line.name}</b>
        <span className="text-quiet"> goes to </span>
        {channelName(doc, cord)}
      </span>
      <label className="flex shrink-0 items-center gap-1 text-quiet">
        <ArrowLeftRight size={13} /> move to
        <Choice
          look="bare"
          label={`Where ${line.name} goes`}
          value={keyOf(cord)}
          options={all.map((end) => {
            const there = doc.lines.find(
              (l) => l.id === doc.tracks.find((t) => t.id === end.track)!.inputs[end.channel],
            );
            const swaps = there && keyOf(end) !== keyOf(cord);
            return {
              value: keyOf(end),
              label: channelName(doc, end),
              ...(swaps ? { note: `changes places with ${there.name}` } : {}),
            };
          })}
          onChange={(key) => {
            const to = all.find((end) => keyOf(end) === key)!;
            if (patchTold(doc, moveCord(doc, cord, to), true)) onMoved(to);
          }}
        />
      </label>
      <button
        className="btn btn-bare ml-auto"
        onClick={() => {
          if (unpatch(cord.track, cord.channel)) onMoved(null);
        }}
      >
        <Unplug size={13} /> Take it out
      </button>
    </div>
  );
}
