import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { escapeXml } from '@/core/files';
import type { Report, ReportChart } from './facts';

/** Colours and sizes of a drawing. */
export interface ChartLook {
  width: number;
  height: number;
  font: string;
  text: string;
  grid: string;
  momentary: string;
  shortTerm: string;
  zone: string;
}

const LEFT = 40;
const RIGHT = 8;
const TOP = 8;
const BOTTOM = 20;
/** Softer than this nothing is read from a chart of a mix (LUFS). */
const SOFTEST = -60;
/** A window is momentary for 0.4 s and short-term for 3 s (EBU Tech 3341): its value stands at its end. */
const FIRST = { momentary: 0.4, shortTerm: 3 };

const heard = (values: readonly number[]): number[] => values.filter((v) => Number.isFinite(v) && v > SOFTEST);

/**
 * LUFS that a chart shows: from the softest to the loudest of what is there, the target in it, in steps of five; a chart
 * of silence shows the usual ones.
 */
export function loudnessRange(values: readonly number[], target: Report['target']): [number, number] {
  const known = heard(values).sort((a, b) => a - b);
  // The softest twentieth are pauses: they may fall out at the bottom.
  const low = known[Math.floor(known.length / 20)] ?? -40;
  const high = known.at(-1) ?? -15;
  const from = Math.min(low, target ? target.at - target.tolerance - 2 : low);
  const to = Math.max(high, target ? target.at + target.tolerance + 2 : high);
  return [Math.floor(from / 5) * 5, Math.max(Math.ceil(to / 5) * 5, Math.floor(from / 5) * 5 + 10)];
}

/** Loudness of the reference over time as SVG. `marks`: times (s) with their words. */
export function loudnessSvg(
  { loudness, seconds }: Pick<ReportChart, 'loudness' | 'seconds'>,
  target: Report['target'],
  look: ChartLook,
  marks: readonly { at: number; text: string }[],
): string {
  const { width, height } = look;
  const [low, high] = loudnessRange(loudness.momentary, target);
  const x = scaleLinear([0, seconds], [LEFT, width - RIGHT]);
  const y = scaleLinear([low, high], [height - BOTTOM, TOP]).clamp(true);
  const path = (values: readonly number[], first: number) =>
    line<number>()
      .defined((v) => Number.isFinite(v))
      .x((_, i) => Math.round(x(first + i * loudness.step) * 10) / 10)
      .y((v) => Math.round(y(v) * 10) / 10)(values as number[]) ?? '';
  const label = (px: number, py: number, text: string, anchor: string) =>
    `<text x="${px.toFixed(1)}" y="${py.toFixed(1)}" font-family="${look.font}" font-size="8.5" fill="${look.text}" text-anchor="${anchor}">${escapeXml(text)}</text>`;
  const ticks = Array.from({ length: (high - low) / 5 + 1 }, (_, i) => low + i * 5);
  const zone = target
    ? `<rect x="${LEFT}" y="${y(target.at + target.tolerance).toFixed(1)}" width="${(width - LEFT - RIGHT).toFixed(1)}" height="${Math.max(1, y(target.at - target.tolerance) - y(target.at + target.tolerance)).toFixed(1)}" fill="${look.zone}"/>`
    : '';
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="Loudness of the reference">`,
    zone,
    ...ticks.map(
      (t) =>
        `<line x1="${LEFT}" x2="${width - RIGHT}" y1="${y(t).toFixed(1)}" y2="${y(t).toFixed(1)}" stroke="${look.grid}" stroke-width="0.5"/>${label(LEFT - 6, y(t) + 3, `${t < 0 ? '−' : ''}${Math.abs(t)}`, 'end')}`,
    ),
    `<path d="${path(loudness.momentary, FIRST.momentary)}" fill="none" stroke="${look.momentary}" stroke-width="0.7"/>`,
    `<path d="${path(loudness.shortTerm, FIRST.shortTerm)}" fill="none" stroke="${look.shortTerm}" stroke-width="1.6"/>`,
    ...marks.map((m, i) =>
      label(x(m.at), height - 6, m.text, i === 0 ? 'start' : i === marks.length - 1 ? 'end' : 'middle'),
    ),
    '</svg>',
  ].join('');
}
