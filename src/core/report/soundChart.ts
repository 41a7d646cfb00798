import { scaleLinear, scaleLog } from 'd3-scale';
import type { SoundFigures } from '@/core/print';

/** Colours and sizes of the drawing of a spectrum. */
export interface SoundLook {
  width: number;
  height: number;
  font: string;
  text: string;
  grid: string;
  bar: string;
}

const [LEFT, RIGHT, TOP, BOTTOM] = [40, 8, 6, 18];
const TICKS = [31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000, 16_000];
/** Softer than so far below the loudest band nothing is drawn (dB). */
const DEEP = 60;

/** Levels of third octaves as bars, as SVG: from 60 dB below the loudest one on, in steps of 20. */
export function soundSvg({ spectrum }: SoundFigures, { width, height, font, text, grid, bar }: SoundLook): string {
  const heard = spectrum.map((b) => b.level).filter(Number.isFinite);
  const high = Math.ceil((heard.length ? Math.max(...heard) : 0) / 10) * 10;
  const low = high - DEEP;
  const x = scaleLog([17.5, 22_700], [LEFT, width - RIGHT]);
  const y = scaleLinear([low, high], [height - BOTTOM, TOP]).clamp(true);
  const label = (px: number, py: number, words: string, anchor: string) =>
    `<text x="${px.toFixed(1)}" y="${py.toFixed(1)}" font-family="${font}" font-size="8.5" fill="${text}" text-anchor="${anchor}">${words}</text>`;
  const lines = Array.from({ length: DEEP / 20 + 1 }, (_, i) => high - i * 20);
  const step = x(1.259) - x(1);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="Spectrum of the reference">`,
    ...lines.map(
      (t) =>
        `<line x1="${LEFT}" x2="${width - RIGHT}" y1="${y(t).toFixed(1)}" y2="${y(t).toFixed(1)}" stroke="${grid}" stroke-width="0.5"/>${label(LEFT - 6, y(t) + 3, `${t < 0 ? '−' : ''}${Math.abs(t)}`, 'end')}`,
    ),
    ...spectrum
      .filter((b) => b.level > low)
      .map(
        (b) =>
          `<rect x="${(x(b.frequency) - step * 0.4).toFixed(1)}" y="${y(b.level).toFixed(1)}" width="${(step * 0.8).toFixed(1)}" height="${(height - BOTTOM - y(b.level)).toFixed(1)}" fill="${bar}"/>`,
      ),
    ...TICKS.map((t) => label(x(t), height - 5, t >= 1000 ? `${t / 1000}k` : String(t), 'middle')),
    '</svg>',
  ].join('');
}
