import type { AudioStream } from '@/core/files';
import type { ChannelSet, Kernels } from '@/core/kernels';
import {
  CHANNEL_ORDERS,
  labelsIn,
  labelsOfMask,
  LAYOUTS,
  layoutOfExactMask,
  layoutOfMask,
  orderOfLabels,
  ordersOf,
  type ChannelOrder,
  type Layout,
} from '@/core/speakers';

export interface SaidChannels {
  /** What its channels are; null: no layout is as wide. */
  layout: Layout | null;
  /** In which order they stand; null: nobody says. */
  order: ChannelOrder | null;
  /** Speakers that its mask names and no layout has just so, as "L R C Cs"; null where there is nothing to tell. */
  others: string | null;
}

/**
 * What a file says of its channels: by their names (ADM, iXML), by its channel mask, or by its kind (a FLAC has one order
 * only: RFC 9639, 9.1.3). Where names and mask contradict each other, nobody says.
 */
export function saidChannels({ kind, channels, mask, info }: AudioStream): SaidChannels {
  const named = [info?.adm?.labels, info?.ixml?.tracks].flatMap((labels) => {
    if (labels?.length !== channels) return [];
    const layout = LAYOUTS.find((l) => orderOfLabels(l, labels) !== null);
    return layout ? [{ layout, order: orderOfLabels(layout, labels)!, others: null }] : [];
  })[0];
  const masked = mask === 0 ? null : layoutOfExactMask(channels, mask);
  if (named && (!masked || named.order === 'wav')) return named;
  if (named) return { layout: named.layout, order: null, others: null };
  const layout = masked ?? layoutOfMask(channels, 0);
  const others = mask !== 0 && !masked && channels > 2 ? labelsOfMask(mask).join(' ') : null;
  const alike = layout === null || ordersOf(layout).length < 2;
  return { layout, order: masked || alike || kind === 'FLAC' ? 'wav' : null, others };
}

/** Share of the energy above the low ones, up to which a channel holds low sounds only (common practice, no source). */
const LOW_ONLY = 0.01;
/** Corner of the filter that tells them apart (Hz): an LFE reaches up to 120 Hz (ITU-R BS.775). */
const CORNER = 500;
/** Energy per sample below which a channel counts as silent: -80 dBFS. */
const SILENT = 1e-8;
/** Sound that is looked at, and the most of a file for it (s). */
const LOOK = 30;
const FAR = 300;

export interface ChannelSound {
  silent: boolean;
  /** Holds sounds as an LFE does, and nothing else. */
  low: boolean;
}

/** What each channel of a stream holds: low sounds only, anything, nothing. */
export async function soundOfChannels(k: Kernels, stream: AudioStream): Promise<ChannelSound[]> {
  const n = stream.channels;
  const all = new Float64Array(n);
  const high = new Float64Array(n);
  const a = 1 / (1 + (2 * Math.PI * CORNER) / stream.sampleRate);
  const state = new Float64Array(n * 4);
  let [heard, gone] = [0, 0];
  for await (const { set, frames } of stream.blocks()) {
    gone += frames;
    const sounds = peakOf(k, set, frames) > 1e-4;
    if (sounds) heard += frames;
    for (let c = 0; sounds && c < n; c++) {
      let [x1, y1, x2, y2] = state.subarray(c * 4, c * 4 + 4) as unknown as [number, number, number, number];
      let [sum, top] = [0, 0];
      const x = set.view(c, frames);
      // Two high passes of the first order, one behind the other.
      for (let i = 0; i < frames; i++) {
        const v = x[i]!;
        y1 = a * (y1 + v - x1);
        x1 = v;
        y2 = a * (y2 + y1 - x2);
        x2 = y1;
        sum += v * v;
        top += y2 * y2;
      }
      state.set([x1, y1, x2, y2], c * 4);
      all[c]! += sum;
      high[c]! += top;
    }
    if (heard > LOOK * stream.sampleRate || gone > FAR * stream.sampleRate) break;
  }
  return Array.from({ length: n }, (_, c) => {
    const silent = all[c]! <= SILENT * Math.max(1, heard);
    return { silent, low: !silent && high[c]! < LOW_ONLY * all[c]! };
  });
}

function peakOf(k: Kernels, set: ChannelSet, frames: number): number {
  let peak = 0;
  for (let c = 0; c < set.channels; c++) peak = Math.max(peak, k.x.peakAbs(set.at(c), frames));
  return peak;
}

/**
 * Orders for which the sound of a file speaks: those whose LFE is the one channel that holds low sounds only, or is silent
 * where that of the others is a full sound; among them those whose centre sounds. None where nothing speaks.
 */
export function ordersHeard(layout: Layout, sound: readonly ChannelSound[]): ChannelOrder[] {
  const orders = CHANNEL_ORDERS.map((o) => o.id);
  const at = (order: ChannelOrder, label: RegExp) => labelsIn(layout, order).findIndex((l) => label.test(l));
  const lfe = (order: ChannelOrder) => sound[at(order, /^LFE/)];
  const low = sound.filter((s) => s.low);
  const full = (s: ChannelSound | undefined) => s !== undefined && !s.low && !s.silent;
  const fits =
    low.length === 1
      ? orders.filter((o) => lfe(o) === low[0])
      : low.length === 0 && orders.some((o) => full(lfe(o)))
        ? orders.filter((o) => lfe(o)?.silent)
        : [];
  // The centre of a film sounds: an order in which it is silent is the less likely one.
  const centred = fits.filter((o) => !sound[at(o, /^C$/)]?.silent);
  return centred.length > 0 ? centred : fits;
}
