'use client';
import { AlignStartVertical } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { edit, preview, samplesOf, useDoc } from '@/client';
import { alignSounds } from '@/core/measure';
import type { Clip, Track } from '@/core/session';

/** Farther than this a line is not moved by itself (s). */
const MOST_SECONDS = 0.6;
/** Longest stretch that is compared (s): a phrase, not its first word. */
const LONGEST = 12;

interface Proposal {
  by: number;
  likeness: number;
}

/** The guide track's sound in a stretch, of all its clips; null where it has none. */
async function guideSound(guide: Track, start: number, frames: number): Promise<Float32Array | null> {
  const clips = guide.clips.filter((c) => c.start < start + frames && c.start + c.length > start);
  if (clips.length === 0) return null;
  const out = new Float32Array(frames);
  for (const clip of clips) {
    const from = Math.max(start, clip.start);
    const to = Math.min(start + frames, clip.start + clip.length);
    const samples = (await samplesOf(clip.media, clip.offset + from - clip.start, to - from))[0]!;
    out.set(samples.subarray(0, to - from), from - start);
  }
  return out;
}

/** Proposes where a replacement line lies on its guide, shows it, and moves it when told. */
export function AlignToGuide({ track, clip }: { track: Track; clip: Clip }) {
  const doc = useDoc('tracks', 'format');
  const guides = doc.tracks.filter((t) => t.guide && t.id !== track.id && t.clips.length > 0);
  const [proposal, setProposal] = useState<(Proposal & { clip: string }) | null>(null);
  if (guides.length === 0) return null;
  const rate = doc.format.sampleRate;
  const shown = proposal?.clip === clip.id ? proposal : null;
  const propose = async () => {
    const frames = Math.min(clip.length, LONGEST * rate);
    const most = Math.round(MOST_SECONDS * rate);
    try {
      const line = (await samplesOf(clip.media, clip.offset, frames))[0]!;
      const sounds = await Promise.all(guides.map((g) => guideSound(g, clip.start, frames)));
      const found = sounds
        .filter((s) => s !== null)
        .map((s) => alignSounds(s, line, rate, most))
        .sort((a, b) => b.likeness - a.likeness)[0];
      if (!found) {
        toast.message('No guide sounds here, so there is nothing to align to.');
        return;
      }
      setProposal({ clip: clip.id, by: found.shift, likeness: found.likeness });
      if (found.shift) preview({ type: 'moveClips', clips: [clip.id], by: found.shift });
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const ms = shown ? (shown.by * 1000) / rate : 0;
  return (
    <div className="mt-2">
      {shown ? (
        <div className="rounded-md border border-brass p-2" role="status">
          <p>
            {shown.by === 0
              ? 'It lies on the guide already'
              : `${Math.abs(ms).toFixed(0)} ms ${ms > 0 ? 'later' : 'earlier'}`}
            <span className="small text-quiet"> · likeness {(shown.likeness * 100).toFixed(0)} %</span>
          </p>
          <div className="mt-1 flex gap-1">
            {shown.by !== 0 && (
              <button
                className="chip"
                onClick={() => {
                  edit({ type: 'moveClips', clips: [clip.id], by: shown.by });
                  setProposal(null);
                }}
              >
                Move it
              </button>
            )}
            <button
              className="chip"
              onClick={() => {
                preview();
                setProposal(null);
              }}
            >
              Leave it
            </button>
          </div>
        </div>
      ) : (
        <button className="chip" onClick={() => void propose()}>
          <AlignStartVertical size={13} className="mr-1" /> Align to the guide…
        </button>
      )}
    </div>
  );
}
