import { PEAK_BIN, type RunningTake } from '@/client';
import type { Clip, SessionDoc, Track } from '@/core/session';

export const ROW = 46;
/** Bits of i16 peaks. */
const FULL = 32768;

export interface Scene {
  doc: SessionDoc;
  zoom: number;
  from: number;
  width: number;
  peaks: Record<string, Int16Array>;
  running: readonly RunningTake[];
  selected: string | null;
  /** Resolved colour of a track's stem. */
  colourOf: (track: Track) => string;
  line: string;
  brass: string;
  rec: string;
  text: string;
}

/** Draws all rows: clips with waveforms, running takes. One canvas, one pass. */
export function drawRows(ctx: CanvasRenderingContext2D, scene: Scene): void {
  const { doc, width } = scene;
  const ratio = ctx.canvas.width / width;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  ctx.clearRect(0, 0, width, ctx.canvas.height);
  doc.tracks.forEach((track, i) => {
    const top = i * ROW;
    if (track.armed) {
      ctx.fillStyle = scene.rec;
      ctx.globalAlpha = 0.07;
      ctx.fillRect(0, top, width, ROW);
      ctx.globalAlpha = 1;
    }
    const silent = track.muted || (doc.tracks.some((t) => t.soloed) && !track.soloed);
    for (const clip of track.clips) drawClip(ctx, scene, clip, top, silent ? scene.line : scene.colourOf(track));
    for (const take of scene.running) if (take.track === track.id) drawRunning(ctx, scene, take, top);
    ctx.fillStyle = scene.line;
    ctx.fillRect(0, top + ROW - 1, width, 1);
  });
}

function drawClip(ctx: CanvasRenderingContext2D, scene: Scene, clip: Clip, top: number, colour: string): void {
  const { zoom, from, width } = scene;
  const x0 = (clip.start - from) / zoom;
  const x1 = (clip.start + clip.length - from) / zoom;
  if (x1 < 0 || x0 > width) return;
  const left = Math.max(-2, x0);
  const right = Math.min(width + 2, x1);
  const y = top + 4;
  const h = ROW - 9;
  ctx.fillStyle = colour;
  ctx.globalAlpha = 0.16;
  ctx.fillRect(left, y, right - left, h);
  ctx.globalAlpha = 1;
  ctx.fillRect(left, y, 2, h);
  const peaks = scene.peaks[clip.media];
  if (peaks)
    drawWave(
      ctx,
      peaks,
      (px) => clip.offset + (px * zoom + from - clip.start),
      zoom,
      left,
      right,
      y + h / 2,
      h / 2 - 1,
      Math.pow(10, clip.gain / 20),
    );
  if (scene.selected === clip.id) {
    ctx.strokeStyle = scene.brass;
    ctx.lineWidth = 1.5;
    ctx.strokeRect(left + 0.75, y + 0.75, right - left - 1.5, h - 1.5);
  }
}

function drawRunning(ctx: CanvasRenderingContext2D, scene: Scene, take: RunningTake, top: number): void {
  const { zoom, from, width } = scene;
  const left = Math.max(0, (take.start - from) / zoom);
  const right = Math.min(width, (take.start + take.frames - from) / zoom);
  if (right <= left) return;
  ctx.clearRect(left, top, right - left, ROW - 1);
  ctx.fillStyle = scene.rec;
  ctx.globalAlpha = 0.22;
  ctx.fillRect(left, top + 4, right - left, ROW - 9);
  ctx.globalAlpha = 1;
  ctx.fillRect(left, top + 4, 2, ROW - 9);
  const peaks = take.pairs;
  drawWave(ctx, peaks, (px) => px * zoom + from - take.start, zoom, left, right, top + ROW / 2, (ROW - 10) / 2, FULL);
}

// One column a pixel: the smallest and largest sample of what it covers.
function drawWave(
  ctx: CanvasRenderingContext2D,
  peaks: ArrayLike<number>,
  sampleAt: (px: number) => number,
  zoom: number,
  left: number,
  right: number,
  middle: number,
  half: number,
  gain: number,
): void {
  const bins = peaks.length / 2;
  for (let px = Math.floor(left); px < right; px++) {
    const first = Math.max(0, Math.floor(sampleAt(px) / PEAK_BIN));
    const last = Math.min(bins - 1, Math.max(first, Math.floor((sampleAt(px) + zoom) / PEAK_BIN)));
    let low = 0;
    let high = 0;
    for (let b = first; b <= last; b++) {
      low = Math.min(low, peaks[2 * b]!);
      high = Math.max(high, peaks[2 * b + 1]!);
    }
    // Speech fills a row better when small samples are lifted: a square-root-like law.
    const up = Math.pow(Math.min(1, (high * gain) / FULL), 0.6) * half;
    const down = Math.pow(Math.min(1, (-low * gain) / FULL), 0.6) * half;
    ctx.fillRect(px, middle - up, 1, Math.max(1, up + down));
  }
}
