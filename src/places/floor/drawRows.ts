import type { PeakLevels, RunningTake } from '@/client';
import { beforeJoint, type Clip, type SessionDoc, type Take, type Track } from '@/core/session';
import { drawWave, FULL } from './drawWave';
import { rowsIn, type Row } from './rows';

export interface Scene {
  doc: SessionDoc;
  rows: readonly Row[];
  /** First pixel of the rows that is seen, and how many. */
  scroll: number;
  height: number;
  zoom: number;
  from: number;
  width: number;
  peaks: Record<string, PeakLevels>;
  running: readonly RunningTake[];
  selected: ReadonlySet<string>;
  /** Range of a take that is being chosen. */
  drawn: { take: string; start: number; end: number } | null;
  /** Resolved colour of a track's stem. */
  colourOf: (track: Track) => string;
  line: string;
  brass: string;
  rec: string;
  text: string;
  quiet: string;
}

/** Draws the rows in view: clips with waveforms, takes, running takes. One canvas, one pass. */
export function drawRows(ctx: CanvasRenderingContext2D, scene: Scene): void {
  const { width, height, scroll } = scene;
  const ratio = ctx.canvas.width / width;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  ctx.clearRect(0, 0, width, height);
  const soloed = scene.doc.tracks.some((t) => t.soloed);
  for (const row of rowsIn(scene.rows, scroll, scroll + height)) {
    const top = row.top - scroll;
    if (row.kind === 'track') drawTrack(ctx, scene, row.track, top, row.height, soloed);
    else if (row.kind === 'take') drawTake(ctx, scene, row.track, row.take!, top, row.height);
    else drawRunning(ctx, scene, row.running!, top, row.height);
    ctx.fillStyle = scene.line;
    ctx.fillRect(0, top + row.height - 1, width, 1);
  }
}

function drawTrack(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  track: Track,
  top: number,
  height: number,
  soloed: boolean,
): void {
  if (track.armed) wash(ctx, scene.rec, 0.07, 0, top, scene.width, height);
  const colour = track.muted || (soloed && !track.soloed) ? scene.line : scene.colourOf(track);
  for (const clip of track.clips) drawClip(ctx, scene, clip, top, height, colour);
  for (const take of scene.running) if (take.track === track.id) drawRunning(ctx, scene, take, top, height);
}

function wash(
  ctx: CanvasRenderingContext2D,
  colour: string,
  alpha: number,
  x: number,
  y: number,
  w: number,
  h: number,
): void {
  ctx.fillStyle = colour;
  ctx.globalAlpha = alpha;
  ctx.fillRect(x, y, w, h);
  ctx.globalAlpha = 1;
}

interface Box {
  x0: number;
  x1: number;
  /** Within the canvas, with a little beyond. */
  left: number;
  right: number;
  y: number;
  h: number;
}

function boxOf(scene: Scene, start: number, length: number, top: number, height: number, gap: number): Box | null {
  const { zoom, from, width } = scene;
  const x0 = (start - from) / zoom;
  const x1 = (start + length - from) / zoom;
  if (x1 < 0 || x0 > width) return null;
  return { x0, x1, left: Math.max(-2, x0), right: Math.min(width + 2, x1), y: top + gap, h: height - 2 * gap - 1 };
}

function waveIn(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  media: string,
  box: Box,
  fileAt: number,
  gainDb: number,
): void {
  const levels = scene.peaks[media];
  if (!levels) return;
  drawWave(ctx, {
    levels,
    // `fileAt`: sample of the file that stands at sample 0 of the timeline.
    sampleAt: (px) => fileAt + px * scene.zoom + scene.from,
    zoom: scene.zoom,
    left: box.left,
    right: box.right,
    middle: box.y + box.h / 2,
    half: box.h / 2 - 1,
    gain: Math.pow(10, gainDb / 20),
  });
}

function drawClip(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  clip: Clip,
  top: number,
  height: number,
  colour: string,
): void {
  const box = boxOf(scene, clip.start, clip.length, top, height, 4);
  if (!box) return;
  const { left, right, y, h } = box;
  const shown = clip.muted ? scene.line : colour;
  wash(ctx, shown, 0.16, left, y, right - left, h);
  ctx.fillStyle = shown;
  ctx.fillRect(left, y, 2, h);
  waveIn(ctx, scene, clip.media, box, clip.offset - clip.start, clip.gain);
  drawFades(ctx, scene, clip, box);
  if (clip.locked) {
    // A bar along the top: it stays where it is.
    ctx.fillStyle = scene.quiet;
    ctx.fillRect(left, y, right - left, 2);
  }
  if (scene.selected.has(clip.id)) {
    ctx.strokeStyle = scene.brass;
    ctx.lineWidth = 1.5;
    ctx.strokeRect(left + 0.75, y + 0.75, right - left - 1.5, h - 1.5);
  }
}

/** Lines that rise and fall over fades; a cross where two clips meet. */
function drawFades(ctx: CanvasRenderingContext2D, { zoom, text }: Scene, clip: Clip, { x0, x1, y, h }: Box): void {
  const line = (ax: number, ay: number, bx: number, by: number) => {
    ctx.beginPath();
    ctx.moveTo(ax, ay);
    ctx.lineTo(bx, by);
    ctx.stroke();
  };
  ctx.strokeStyle = text;
  ctx.lineWidth = 1;
  if (clip.fadeIn) line(x0, y + h, x0 + clip.fadeIn.frames / zoom, y);
  if (clip.fadeOut) line(x1 - clip.fadeOut.frames / zoom, y, x1, y + h);
  if (!clip.joint) return;
  const before = Math.max(3, beforeJoint(clip.joint) / zoom);
  line(x0 - before, y + h, x0 + before, y);
  line(x0 - before, y, x0 + before, y + h);
}

/** A take below its track: quiet, and framed where it is in the comp. */
function drawTake(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  track: Track,
  take: Take,
  top: number,
  height: number,
): void {
  const { zoom, from, width, drawn } = scene;
  const box = boxOf(scene, take.start, take.length, top, height, 3);
  if (!box) return;
  wash(ctx, scene.quiet, 0.1, box.left, box.y, box.right - box.left, box.h);
  ctx.fillStyle = scene.quiet;
  waveIn(ctx, scene, take.media, box, -take.start, 0);
  for (const clip of track.clips) {
    if (clip.media !== take.media || clip.start - clip.offset !== take.start) continue;
    const used = boxOf(scene, clip.start, clip.length, top, height, 3);
    if (!used) continue;
    ctx.fillStyle = scene.colourOf(track);
    waveIn(ctx, scene, take.media, used, -take.start, 0);
    ctx.strokeStyle = scene.brass;
    ctx.lineWidth = 1;
    ctx.strokeRect(used.left + 0.5, used.y + 0.5, used.right - used.left - 1, used.h - 1);
  }
  if (drawn?.take === take.id) {
    const x0 = Math.max(0, (drawn.start - from) / zoom);
    const x1 = Math.min(width, (drawn.end - from) / zoom);
    wash(ctx, scene.brass, 0.35, x0, top, x1 - x0, height - 1);
  }
}

function drawRunning(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  take: RunningTake,
  top: number,
  height: number,
): void {
  const box = boxOf(scene, take.start, take.frames, top, height, height > 40 ? 4 : 3);
  if (!box || box.right <= box.left) return;
  const { left, right, y, h } = box;
  ctx.clearRect(left, top, right - left, height - 1);
  wash(ctx, scene.rec, 0.22, left, y, right - left, h);
  ctx.fillStyle = scene.rec;
  ctx.fillRect(left, y, 2, h);
  drawWave(ctx, {
    levels: [take.pairs],
    sampleAt: (px) => px * scene.zoom + scene.from - take.start,
    zoom: scene.zoom,
    left: Math.max(0, left),
    right: Math.min(scene.width, right),
    middle: y + h / 2,
    half: h / 2 - 1,
    gain: FULL,
  });
}
