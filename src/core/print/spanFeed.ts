import { itemsIn, layItem } from '@/core/engine';
import { ChannelSet, type Kernels } from '@/core/kernels';
import { FADE_CURVES, fileChannels, type SessionDoc, type Track } from '@/core/session';
import { reorder, widthOf } from '@/core/speakers';

/**
 * Gives `lay` planar samples of a file, one array a channel; they are valid only until it returns. Many calls
 * may be under way at once.
 */
export type MediaReader = (
  media: string,
  from: number,
  frames: number,
  lay: (planar: readonly Float32Array[]) => void,
) => Promise<void>;

interface Lane {
  track: Track;
  /** What is being printed and what is being fetched, in turn. */
  spans: readonly [ChannelSet, ChannelSet];
}

/** Frames in which a source dies away after the end of a range that has a tail. */
const LAST = 240;
const EVEN = FADE_CURVES.find((c) => c.id === 'even')!.kernel;

/** Samples of all tracks, span by span: the next span comes from the disk while this one is worked on. */
export class SpanFeed {
  private readonly lanes: Lane[];
  private readonly scratch: number;
  private turn = 0;
  private ahead: Promise<unknown> = Promise.resolve();
  /** Everything that is under way, also after one of them has failed. */
  private reading: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly k: Kernels,
    tracks: readonly Track[],
    private readonly media: SessionDoc['media'],
    private readonly read: MediaReader,
    private readonly frames: number,
    /** Sample of the timeline after which no source sounds. */
    private readonly until = Infinity,
  ) {
    this.lanes = tracks.map((track) => {
      const width = widthOf(track.layout);
      return { track, spans: [new ChannelSet(k, width, frames), new ChannelSet(k, width, frames)] };
    });
    this.scratch = k.x.alloc(frames * 4);
  }

  /** Starts to fetch what stands from `at` on the timeline. */
  fetch(at: number): void {
    const span = (this.turn + 1) % 2;
    const fills = this.lanes.map((lane) => this.fill(lane.track, lane.spans[span]!, at));
    this.ahead = Promise.all(fills);
    this.reading = Promise.allSettled([this.reading, ...fills]);
    // A failure is met when the span is taken, and is no stray one until then.
    this.ahead.catch(() => {});
  }

  // Clips of one track one after another: where they overlap the order of adding decides the last bit.
  private async fill(track: Track, span: ChannelSet, at: number): Promise<void> {
    span.clear(this.frames);
    for (const item of itemsIn(track, at, this.frames)) {
      const by = fileChannels(this.media[item.media], track.layout);
      await this.read(item.media, item.from, item.frames, (planar) =>
        layItem(this.k, span, this.scratch, item, by ? reorder(planar, by) : planar),
      );
    }
    this.finish(span, at);
  }

  // What goes on after the end dies away within a moment, so that only what it woke is heard.
  private finish(span: ChannelSet, at: number): void {
    const from = Math.max(0, this.until - at);
    if (from >= this.frames) return;
    const first = Math.max(0, at - this.until);
    const n = Math.max(0, Math.min(LAST - first, this.frames - from));
    for (let c = 0; c < span.channels; c++) {
      if (n > 0) this.k.x.fadeRun(span.at(c) + from * 4, n, first, LAST, EVEN, true);
      span.view(c, this.frames).fill(0, from + n);
    }
  }

  /** Waits for the span that was asked for last. */
  async take(): Promise<void> {
    await this.ahead;
    this.turn = (this.turn + 1) % 2;
  }

  /** Each track with its samples in the span that was taken. */
  *current(): Iterable<{ track: Track; span: ChannelSet }> {
    for (const { track, spans } of this.lanes) yield { track, span: spans[this.turn]! };
  }

  /** Waits for what is under way, then gives the memory back. */
  async close(): Promise<void> {
    // Memory that a read still lays sound into must not be given to others.
    await this.reading;
    for (const { spans } of this.lanes) spans.forEach((s) => s.free());
    this.k.x.release(this.scratch);
  }
}
