import { soloedTracks } from '@/core/paths';
import { FORMAT, applied, take } from '../../../tests/support/session';
import { describe, expect, it } from 'vitest';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import type { RunningTake } from '@/client';
import { peakLevels } from '@/client';
import { drawRows, type Scene } from './drawRows';
import type { Painter } from './painter';
import { ROW, rowsOf } from './rows';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const media = { id: 'm', name: 'm.wav', channels: 1, frames: 96_000, sampleRate: 48000, kind: 'file' as const };
const doc = apply(
  newSession('Test', 'TS', { ...FORMAT }),
  { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'dia' },
  { type: 'addTrack', id: 'b', name: 'B', layout: 'mono', destination: 'nar' },
  { type: 'addClip', id: 'c', track: 'b', start: 48_000, media },
);

interface Mark {
  kind: 'fill' | 'stroke';
  style: string;
  x: number;
  y: number;
  w: number;
  h: number;
}

/** A painter that notes what is drawn. */
function canvas(): { paint: Painter; marks: Mark[] } {
  const marks: Mark[] = [];
  return {
    marks,
    paint: {
      fill: (style, x, y, w, h) => void marks.push({ kind: 'fill', style, x, y, w, h }),
      frame: (style, x, y, w, h) => void marks.push({ kind: 'stroke', style, x, y, w, h }),
      line: () => {},
    },
  };
}

type Given = Partial<Scene> & { doc?: SessionDoc; running?: RunningTake[]; open?: string[] };
const scene = ({ running = [], open = [], doc: given = doc, ...part }: Given = {}): Scene => ({
  sounding: soloedTracks(given),
  rows: rowsOf(given, { open: new Set(open), all: new Set(open) }, running),
  scroll: 0,
  height: 200,
  zoom: 480,
  from: 0,
  width: 800,
  peaks: {},
  selected: new Set(),
  running,
  drawn: null,
  colourOf: (t) => `colour-${t.id}`,
  ground: 'ground',
  line: 'line',
  brass: 'brass',
  rec: 'rec',
  text: 'text',
  quiet: 'quiet',
  ...part,
});
const draw = (part: Given = {}) => {
  const { paint, marks } = canvas();
  drawRows(paint, scene(part));
  return marks;
};

describe('rows', () => {
  it('show a clip in its track’s row, where it stands in time, in the stem’s colour', () => {
    const [body] = draw().filter((m) => m.style === 'colour-b');
    expect(body).toMatchObject({ x: 100, w: 200 });
    expect(body!.y).toBeGreaterThanOrEqual(ROW);
    expect(body!.y + body!.h).toBeLessThanOrEqual(2 * ROW);
  });
  it('leave out what is not in view', () => {
    expect(draw({ from: 48_000 * 10 }).filter((m) => m.style === 'colour-b')).toEqual([]);
  });
  it('end each row with a hairline, also an empty one', () => {
    expect(
      draw()
        .filter((m) => m.style === 'line')
        .map((m) => m.y),
    ).toEqual([ROW - 1, 2 * ROW - 1]);
  });
  it('grey a muted track, and all others while one is soloed', () => {
    const muted = apply(doc, { type: 'setTrack', track: 'b', muted: true });
    expect(draw({ doc: muted }).some((m) => m.style === 'colour-b')).toBe(false);
    const soloed = apply(doc, { type: 'seatTrack', track: 'a', soloed: true });
    expect(draw({ doc: soloed }).some((m) => m.style === 'colour-b')).toBe(false);
    // As it is heard: what passes a soloed bus sounds.
    const stem = apply(doc, { type: 'seatBus', bus: doc.tracks.find((t) => t.id === 'b')!.destination!, soloed: true });
    expect(draw({ doc: stem }).some((m) => m.style === 'colour-b')).toBe(true);
  });
  it('frame the selected clip in brass and tint an armed track red', () => {
    expect(draw({ selected: new Set(['c']) }).filter((m) => m.kind === 'stroke')).toMatchObject([{ style: 'brass' }]);
    const armed = apply(doc, { type: 'seatTrack', track: 'a', armed: true });
    expect(draw({ doc: armed }).filter((m) => m.style === 'rec')).toMatchObject([{ y: 0, w: 800, h: ROW }]);
  });
});

describe('waveforms', () => {
  // The first half is loud, the second half silent.
  const peaks = new Int16Array(Math.ceil(96_000 / 256) * 2);
  for (let bin = 0; bin < peaks.length / 4; bin++) peaks.set([-16384, 16384], bin * 2);
  const columns = (part: Given = {}) =>
    draw({ peaks: { m: peakLevels(peaks) }, ...part }).filter((m) => m.style === 'colour-b' && m.w === 1);
  it('are one column a pixel, high where it is loud, a line where it is silent', () => {
    const found = columns();
    expect(found).toHaveLength(200);
    expect(found.find((m) => m.x === 150)!.h).toBeGreaterThan(15);
    expect(found.find((m) => m.x === 260)!.h).toBe(1);
  });
  it('follow trimming: the sound stays where it was', () => {
    const trimmed = apply(doc, { type: 'trimClip', clip: 'c', start: 72_000, length: 48_000 });
    const found = columns({ doc: trimmed });
    expect(found.find((m) => m.x === 160)!.h).toBeGreaterThan(15);
    expect(found.find((m) => m.x === 230)!.h).toBe(1);
    expect(found.some((m) => m.x < 150)).toBe(false);
  });
  it('follow the clip’s gain and never leave the row', () => {
    const soft = columns({ doc: apply(doc, { type: 'setClipGain', clip: 'c', gain: -20 }) });
    const loud = columns({ doc: apply(doc, { type: 'setClipGain', clip: 'c', gain: 24 }) });
    expect(soft.find((m) => m.x === 150)!.h).toBeLessThan(columns().find((m) => m.x === 150)!.h);
    for (const m of loud) expect(m.y >= ROW && m.y + m.h <= 2 * ROW).toBe(true);
  });
  it('of a running take grow in red', () => {
    const take = (frames: number): RunningTake => ({
      id: 'r',
      track: 'a',
      start: 24_000,
      number: 1,
      frames,
      delivered: 0,
      pairs: Array.from({ length: Math.floor(frames / 256) * 2 }, (_, i) => (i % 2 ? 0.4 : -0.4)),
      trouble: null,
      gaps: [],
    });
    const width = (frames: number) =>
      draw({ running: [take(frames)] }).filter((m) => m.style === 'rec' && m.w === 1).length;
    expect(width(0)).toBe(0);
    expect(width(48_000)).toBe(100);
    expect(width(96_000)).toBe(200);
  });
});

describe('takes', () => {
  const taken = applied(doc, take('t1', 'a', 48_000, 96_000), take('t2', 'a', 48_000, 96_000), {
    type: 'compRange',
    track: 'a',
    take: 't1',
    start: 96_000,
    end: 120_000,
    id: 'x',
  });
  it('are shown below an open track only, framed where they are in the comp', () => {
    const frames = (open: string[]) => draw({ doc: taken, open }).filter((m) => m.kind === 'stroke');
    expect(frames([])).toEqual([]);
    // Take 2 twice (on both sides of the choice), take 1 once.
    expect(frames(['a']).map((m) => [m.x, m.w])).toEqual([
      [100, 100],
      [250, 50],
      [200, 50],
    ]);
  });
  it('show the range that is being chosen', () => {
    const drawn = { take: 't2', start: 48_000, end: 96_000 };
    expect(
      draw({ doc: taken, open: ['a'], drawn }).filter((m) => m.style === 'brass' && m.kind === 'fill'),
    ).toMatchObject([{ x: 100, w: 100, y: ROW }]);
  });
  it('out of view cost nothing', () => {
    const many = applied(taken, ...Array.from({ length: 300 }, (_, i) => take(`u${i}`, 'a', 48_000, 96_000)));
    const few = draw({ doc: many, open: ['a'], peaks: {} }).length;
    expect(few).toBeLessThan(80);
  });
});

describe('levels of peaks', () => {
  it('each is the extremes of sixteen of the one before', () => {
    const fine = Int16Array.from({ length: 2 * 40 }, (_, i) => (i % 2 ? i : -i));
    const [first, second, third] = peakLevels(fine);
    expect(first).toBe(fine);
    expect([...second!]).toEqual([-30, 31, -62, 63, -78, 79]);
    expect([...third!]).toEqual([-78, 79]);
  });
});
