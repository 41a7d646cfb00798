import { itemsRolled, layItem, type SpanItem } from '@/core/engine';
import { ChannelSet, Kernels } from '@/core/kernels';
import { fileChannels, type SessionDoc, type Track } from '@/core/session';
import { reorder } from '@/core/speakers';
import type { FromFeeder, ToFeeder } from '../messages';
import { Ring } from '../ring';
import { ASSETS } from '../generated/assets';

/** Frames fetched at a time, and how much must be there before rolling. */
const SPAN = 24_000;
const READY_SPANS = 1;
const AHEAD_SPANS = 8;
/** A change of clips is heard after this many frames. */
const CHANGE_AHEAD = 12_000;
/** A request without an answer for so long is made anew (ms). */
const HANGS_AFTER = 5_000;

interface Lane {
  track: Track;
  ring: Ring;
  span: ChannelSet;
}

const post = (message: FromFeeder) => postMessage(message);
const kernels = fetch(ASSETS.kernels)
  .then((r) => WebAssembly.compileStreaming(r))
  .then((module) => new Kernels(module));

let lanes: Lane[] = [];
let media: SessionDoc['media'] = {};
let session = '';
let position = 0;
let loop: { start: number; end: number } | null = null;
let run = 0;
let scratch = 0;

async function start(message: Extract<ToFeeder, { kind: 'start' }>): Promise<void> {
  const mine = ++run;
  const k = await kernels;
  scratch ||= k.x.alloc(SPAN * 4);
  lanes.forEach((l) => l.span.free());
  lanes = message.rings.flatMap(({ track, ring }) => {
    const found = message.tracks.find((t) => t.id === track);
    return found ? [{ track: found, ring: new Ring(ring), span: new ChannelSet(k, ring.channels, SPAN) }] : [];
  });
  lanes.forEach((l) => l.ring.restart());
  ({ session, media, position, loop } = message);
  let told = false;
  while (run === mine) {
    const written = Math.min(...lanes.map((l) => l.ring.written));
    const ahead = Math.min(...lanes.map((l) => l.ring.available));
    if (!told && (written >= READY_SPANS * SPAN || lanes.length === 0)) {
      told = true;
      post({ kind: 'ready', generation: message.generation });
    }
    if (lanes.length === 0) return;
    const room = Math.min(...lanes.map((l) => l.ring.room));
    if (ahead > AHEAD_SPANS * SPAN || room < SPAN) {
      await new Promise((resolve) => setTimeout(resolve, 40));
      continue;
    }
    try {
      await feed(k, written, mine);
    } catch (error) {
      const why = (error as Error).message;
      if (message.unheard && ahead < SPAN) {
        // A performer is being recorded: that never waits for what was to be heard beside.
        layOut(written, mine, null);
        post({
          kind: 'trouble',
          message: `The tracks are not heard while recording: the server does not give their sound (${why}).`,
        });
      } else {
        post({ kind: 'trouble', message: `Sound could not be fetched (${why}); trying again.` });
        await new Promise((resolve) => setTimeout(resolve, 500));
      }
    }
  }
}

async function feed(k: Kernels, at: number, mine: number): Promise<void> {
  const wanted = lanes.map((lane) => ({ lane, items: itemsRolled(lane.track, position, at, SPAN, loop) }));
  const items = wanted.flatMap((w) => w.items);
  const samples = items.length ? await fetchItems(items) : new Float32Array(0);
  layOut(at, mine, { k, wanted, samples });
}

interface Span {
  k: Kernels;
  wanted: { lane: Lane; items: SpanItem[] }[];
  samples: Float32Array;
}

/** Lays the next span into all rings; null: silence. */
function layOut(at: number, mine: number, span: Span | null): void {
  if (run !== mine || at !== Math.min(...lanes.map((l) => l.ring.written))) return;
  let from = 0;
  for (const { lane, items: own } of span?.wanted ?? lanes.map((l) => ({ lane: l, items: [] }))) {
    lane.span.clear(SPAN);
    for (const item of span ? own : []) {
      const { k, samples } = span!;
      const planar = Array.from({ length: lane.ring.channels }, (_, c) =>
        samples.subarray(from + c * item.frames, from + (c + 1) * item.frames),
      );
      const by = fileChannels(media[item.media], lane.track.layout);
      layItem(k, lane.span, scratch, item, by ? reorder(planar, by) : planar);
      from += lane.ring.channels * item.frames;
    }
    for (let c = 0; c < lane.ring.channels; c++) lane.ring.put(c, lane.span.view(c));
    lane.ring.wrote(SPAN);
  }
}

async function fetchItems(items: SpanItem[]): Promise<Float32Array> {
  const response = await fetch(`/api/sessions/${session}/blocks`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    // A network that was cut answers nothing at all.
    signal: AbortSignal.timeout(HANGS_AFTER),
    body: JSON.stringify({ items: items.map(({ media, from, frames }) => ({ media, from, frames })) }),
  });
  if (!response.ok)
    throw new Error(
      ((await response.json().catch(() => null)) as { message?: string } | null)?.message ??
        `status ${response.status}`,
    );
  return new Float32Array(await response.arrayBuffer());
}

onmessage = ({ data }: MessageEvent<ToFeeder>) => {
  if (data.kind === 'start') void start(data);
  else if (data.kind === 'stop') run++;
  else {
    ({ media } = data);
    // All lanes go back to the same frame: the worklet reads on meanwhile.
    const to = Math.max(0, ...lanes.map((l) => l.ring.read)) + CHANGE_AHEAD;
    for (const lane of lanes) {
      lane.track = data.tracks.find((t) => t.id === lane.track.id) ?? lane.track;
      lane.ring.rewind(to);
    }
  }
};
