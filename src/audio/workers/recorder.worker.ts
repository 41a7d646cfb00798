import { bytesPerSample, formatOfWord, FrameCodec } from '@/core/files';
import { ChannelSet, Kernels } from '@/core/kernels';
import { ASSETS } from '../generated/assets';
import type { FromRecorder, RecordJob, ToRecorder } from '../recorder';
import { Ring } from '../ring';
import { Delivery, Undeliverable } from './delivery';
import { leftTakes, TakeFiles, type Journal } from './takeStore';

const SPAN = 8192;
const PEAK_BIN = 256;
/** Between looks at the rings, and before the server is tried again (ms). */
const PAUSE = 100;
const AGAIN = 700;
/** Longest time between looks for takes of an earlier page (ms). */
const LONGEST_WAIT = 10_000;

const post = (message: FromRecorder) => postMessage(message);
const kernels = fetch(ASSETS.kernels)
  .then((r) => WebAssembly.compileStreaming(r))
  .then((module) => new Kernels(module));
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
/** Frames at which each running recording ends, once known. */
const ends = new Map<string, number>();
/** Where what is heard of a take ends, when it was ended by hand. */
const shownEnds = new Map<string, number>();
const active = new Set<string>();

class Recording {
  private readonly ring: Ring;
  private readonly planar: ChannelSet;
  private readonly codec: FrameCodec;
  private readonly pairs: number;
  frames = 0;

  constructor(
    private readonly k: Kernels,
    private readonly job: RecordJob,
    private readonly files: TakeFiles,
  ) {
    this.ring = new Ring(job.ring);
    this.planar = new ChannelSet(k, job.channels * 2, SPAN);
    this.codec = new FrameCodec(k, formatOfWord(job.wordLength), job.channels, SPAN);
    this.pairs = k.x.alloc((SPAN / PEAK_BIN) * 8);
  }

  /** Takes what the ring holds to the browser's disk; returns new peaks. Whole peak bins only, but at the end. */
  drain(end: number | undefined): number[] {
    const pairs: number[] = [];
    for (;;) {
      const there = Math.min(this.ring.available, SPAN, (end ?? Infinity) - this.frames);
      const last = end !== undefined && this.frames + there >= end;
      const n = last ? there : there - (there % PEAK_BIN);
      if (n <= 0) break;
      for (let c = 0; c < this.planar.channels; c++) this.ring.take(c, this.k.heap, this.planar.at(c) >> 2, n);
      this.ring.took(n);
      this.files.append('processed', this.codec.encode(this.planar.table, n).bytes);
      this.files.append('dry', this.codec.encode(this.planar.table + this.job.channels * 4, n).bytes);
      const bins = this.k.x.peakBins(this.planar.at(0), n, PEAK_BIN, this.pairs);
      pairs.push(...this.k.f32(this.pairs, bins * 2));
      this.frames += n;
    }
    return pairs;
  }

  free(): void {
    this.planar.free();
    this.codec.free();
    this.k.x.release(this.pairs);
  }
}

async function record(job: RecordJob): Promise<void> {
  active.add(job.id);
  const block = job.channels * bytesPerSample(formatOfWord(job.wordLength));
  const files = await TakeFiles.create({
    id: job.id,
    session: job.session,
    track: job.track,
    start: job.start,
    block,
    chains: job.chains,
    keepDry: job.keepDry,
    ...(job.purpose ? { purpose: job.purpose } : {}),
  });
  const delivery = new Delivery(files);
  const recording = new Recording(await kernels, job, files);
  let told = false;
  let nextTry = 0;
  let sending: Promise<void> | null = null;
  for (;;) {
    const end = ends.get(job.id);
    const pairs = recording.drain(end);
    if (pairs.length) files.flush();
    post({ kind: 'peaks', id: job.id, pairs, frames: recording.frames, delivered: delivery.delivered });
    if (end !== undefined && recording.frames >= end) break;
    // Sending goes on beside: a slow server never holds up what is taken from the rings.
    if (!sending && recording.frames > 0 && Date.now() >= nextTry) {
      sending = (async () => {
        try {
          if (!told) {
            post({ kind: 'begun', id: job.id, ...(await delivery.begin()) });
            told = true;
          }
          await delivery.push();
        } catch (error) {
          nextTry = Date.now() + AGAIN;
          post({
            kind: 'trouble',
            id: job.id,
            message: `The server does not take the recording (${(error as Error).message}). It goes on safely in this browser and is delivered as soon as the server is back.`,
          });
        } finally {
          sending = null;
        }
      })();
    }
    await pause(PAUSE);
  }
  await sending;
  ends.delete(job.id);
  const shownEnd = shownEnds.get(job.id);
  shownEnds.delete(job.id);
  recording.free();
  await deliver(files, delivery, recording.frames, shownEnd);
}

// Until the server has everything, the take stays in the browser.
async function deliver(files: TakeFiles, delivery: Delivery, frames: number, shownEnd?: number): Promise<void> {
  const { id } = files.journal;
  active.add(id);
  for (;;) {
    try {
      if (frames > 0) await delivery.finish(frames, shownEnd);
      await files.close(true);
      post({ kind: 'finished', id });
      break;
    } catch (error) {
      post({
        kind: 'trouble',
        id,
        message: `The take waits in this browser: ${(error as Error).message}. Keep this page open; it is delivered as soon as possible.`,
      });
      if (error instanceof Undeliverable) {
        await files.close(false);
        break;
      }
      await pause(AGAIN);
    }
  }
  active.delete(id);
}

/**
 * Takes that an earlier page could not deliver. A page that has just died lets go of its files a little later, and
 * another window may hold them for as long as it records: looked for again and again, less and less often, until
 * none is left.
 */
async function deliverLeft(): Promise<void> {
  for (let wait = AGAIN; ; wait = Math.min(wait * 1.2, LONGEST_WAIT)) {
    try {
      const left = (await leftTakes()).filter((j) => !active.has(j.id));
      if (left.length === 0) return;
      for (const journal of left) await deliverOne(journal).catch(() => {});
    } catch {
      // The private file system is not to be had at this moment.
    }
    await pause(wait);
  }
}

// Throws when another window of this browser holds the files: that one delivers them.
async function deliverOne(journal: Journal): Promise<void> {
  const files = await TakeFiles.open(journal);
  const frames = Math.floor(Math.min(files.size('processed'), files.size('dry')) / journal.block);
  await deliver(files, new Delivery(files), frames);
}

onmessage = ({ data }: MessageEvent<ToRecorder>) => {
  if (data.kind === 'record') {
    record(data.job).catch((error: Error) =>
      post({ kind: 'trouble', id: data.job.id, message: `Recording failed: ${error.message}` }),
    );
  } else if (data.kind === 'stop') {
    ends.set(data.id, data.frames);
    if (data.shownEnd !== undefined) shownEnds.set(data.id, data.shownEnd);
  } else void deliverLeft();
};
