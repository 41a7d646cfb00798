import type { PeakLevels, RunningTake } from '@/client';
import { beforeJoint, type Clip, type Take, type Track } from '@/core/session';
import { drawWave, FULL } from './drawWave';
import type { Painter } from './painter';
import { rowsIn, type Row } from './rows';

export interface Scene {
  /** Tracks that are heard while something is soloed; null: all of them. */
  sounding: ReadonlySet<string> | null;
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
  ground: string;
  line: string;
  brass: string;
  rec: string;
  text: string;
  quiet: string;
}

/** Draws the rows in view: clips with waveforms, takes, running takes. One pass over what is seen. */
export function drawRows(paint: Painter, scene: Scene): void {
  const { width, height, scroll } = scene;
  for (const row of rowsIn(scene.rows, scroll, scroll + height)) {
    const top = row.top - scroll;
    if (row.kind === 'lane') paint.fill(scene.line, 0, top, width, row.height, 0.12);
    else if (row.kind === 'track') drawTrack(paint, scene, row.track, top, row.height);
    else if (row.kind === 'takes')
      for (const take of row.takes) drawTake(paint, scene, row.track, take, top, row.height);
    else if (row.kind === 'running') drawRunning(paint, scene, row.running, top, row.height);
    paint.fill(scene.line, 0, top + row.height - 1, width, 1);
  }
}

function drawTrack(paint: Painter, scene: Scene, track: Track, top: number, height: number): void {
  if (track.armed) paint.fill(scene.rec, 0, top, scene.width, height, 0.07);
  const colour = track.muted || (scene.sounding && !scene.sounding.has(track.id)) ? scene.line : scene.colourOf(track);
  for (const clip of track.clips) drawClip(paint, scene, clip, top, height, colour);
  for (const take of scene.running) if (take.track === track.id) drawRunning(paint, scene, take, top, height);
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
  paint: Painter,
  scene: Scene,
  media: string,
  colour: string,
  box: Box,
  fileAt: number,
  gainDb: number,
): void {
  const levels = scene.peaks[media];
  if (!levels) return;
  drawWave(paint, {
    colour,
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

function drawClip(paint: Painter, scene: Scene, clip: Clip, top: number, height: number, colour: string): void {
  const box = boxOf(scene, clip.start, clip.length, top, height, 4);
  if (!box) return;
  const { left, right, y, h } = box;
  const shown = clip.muted ? scene.line : colour;
  paint.fill(shown, left, y, right - left, h, 0.16);
  paint.fill(shown, left, y, 2, h);
  waveIn(paint, scene, clip.media, shown, box, clip.offset - clip.start, clip.gain);
  drawFades(paint, scene, clip, box);
  if (clip.locked) {
    // A bar along the top: it stays where it is.
    paint.fill(scene.quiet, left, y, right - left, 2);
  }
  if (scene.selected.has(clip.id)) paint.frame(scene.brass, left, y, right - left, h);
}

/** Lines that rise and fall over fades; a cross where two clips meet. */
function drawFades(paint: Painter, { zoom, text }: Scene, clip: Clip, { x0, x1, y, h }: Box): void {
  if (clip.fadeIn) paint.line(text, x0, y + h, x0 + clip.fadeIn.frames / zoom, y);
  if (clip.fadeOut) paint.line(text, x1 - clip.fadeOut.frames / zoom, y, x1, y + h);
  if (!clip.joint) return;
  const before = Math.max(3, beforeJoint(clip.joint) / zoom);
  paint.line(text, x0 - before, y + h, x0 + before, y);
  paint.line(text, x0 - before, y, x0 + before, y + h);
}

/** A take below its track: quiet, and framed where it is in the comp. */
function drawTake(paint: Painter, scene: Scene, track: Track, take: Take, top: number, height: number): void {
  const { zoom, from, width, drawn } = scene;
  const box = boxOf(scene, take.start, take.length, top, height, 3);
  if (!box) return;
  paint.fill(scene.quiet, box.left, box.y, box.right - box.left, box.h, 0.1);
  waveIn(paint, scene, take.media, scene.quiet, box, -take.start, 0);
  for (const clip of track.clips) {
    if (clip.media !== take.media || clip.start - clip.offset !== take.start) continue;
    const used = boxOf(scene, clip.start, clip.length, top, height, 3);
    if (!used) continue;
    waveIn(paint, scene, take.media, scene.colourOf(track), used, -take.start, 0);
    paint.frame(scene.brass, used.left, used.y, used.right - used.left, used.h);
  }
  if (drawn?.take === take.id) {
    const x0 = Math.max(0, (drawn.start - from) / zoom);
    const x1 = Math.min(width, (drawn.end - from) / zoom);
    paint.fill(scene.brass, x0, top, x1 - x0, height - 1, 0.35);
  }
}

function drawRunning(paint: Painter, scene: Scene, take: RunningTake, top: number, height: number): void {
  const box = boxOf(scene, take.start, take.frames, top, height, height > 40 ? 4 : 3);
  if (!box || box.right <= box.left) return;
  const { left, right, y, h } = box;
  // What lies under it is about to be replaced.
  paint.fill(scene.ground, left, top, right - left, height - 1);
  paint.fill(scene.rec, left, y, right - left, h, 0.22);
  paint.fill(scene.rec, left, y, 2, h);
  drawWave(paint, {
    colour: scene.rec,
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
