import type { ChannelSet } from '@/core/kernels';
import type { SessionDoc } from '@/core/session';
import { layoutIn, layoutOf, type ChannelOrder, type LayoutId } from '@/core/speakers';
import { frameRate } from '@/core/units';

/** Pitch of the tone that picture and sound are laid together by (Hz; common practice, no source). */
const POP_HZ = 1000;

/** Frames that stand before a range in every file, and the tone in them. */
export interface LeadInFrames {
  frames: number;
  /** First frame of the tone, and how many frames it has: those of one picture; null: none sounds. */
  pop: { at: number; frames: number; peak: number; rate: number } | null;
}

/** The lead-in of a session at its rate; null where it has none. */
export function leadInOf(doc: SessionDoc): LeadInFrames | null {
  const leadIn = doc.printing?.leadIn;
  if (!leadIn) return null;
  const { sampleRate } = doc.format;
  const frames = Math.round(leadIn.seconds * sampleRate);
  const { num, den } = frameRate(doc.format.frameRate);
  const one = Math.round((sampleRate * den) / num);
  return {
    frames,
    pop:
      leadIn.pop === undefined
        ? null
        : {
            at: frames - Math.round(leadIn.pop * sampleRate),
            frames: Math.min(one, Math.round(leadIn.pop * sampleRate)),
            peak: 10 ** (leadIn.level / 20),
            rate: sampleRate,
          },
  };
}

/** Frames of the lead-in in a file of another rate. */
export const leadAt = (doc: SessionDoc, rate: number): number =>
  Math.round(((leadInOf(doc)?.frames ?? 0) * rate) / doc.format.sampleRate);

/** For each channel of a file whether the tone sounds in it: not in a subwoofer. */
export const popChannels = (layout: LayoutId, order: ChannelOrder): boolean[] =>
  layoutIn(layoutOf(layout), order).speakers.map((s) => !s.lfe);

/** Lays frames [from, from + n) of a lead-in into channels. */
export function layLeadIn(
  lead: LeadInFrames,
  set: ChannelSet,
  sounds: readonly boolean[],
  from: number,
  n: number,
): void {
  const { pop } = lead;
  sounds.forEach((on, c) => {
    const out = set.view(c, n);
    out.fill(0);
    if (!pop || !on) return;
    for (let i = Math.max(0, pop.at - from); i < n && from + i < pop.at + pop.frames; i++)
      out[i] = pop.peak * Math.sin((2 * Math.PI * POP_HZ * (from + i - pop.at)) / pop.rate);
  });
}
