import { escapeXml } from '@/core/files';
import { loudnessSvg, type ChartLook } from './chart';
import type { SoundFigures } from '@/core/print';
import type { Report, ReportChart, ReportRow } from './facts';
import { soundSvg } from './soundChart';
import { MEASURED } from './text';

/** Fonts that go with the page, as data addresses. */
export interface ReportFonts {
  text: string;
  figures: string;
}

/** The look of the application with its lights up. */
export const PAPER = {
  ground: '#fbf9f3',
  line: '#d8d0bf',
  text: '#1c2528',
  quiet: '#5a6a6d',
  fine: '#1f7a50',
  fineGround: '#e5eee3',
  warn: '#a85f00',
  warnGround: '#f6ecd9',
  stop: '#c62828',
  signal: '#1d6b80',
  zone: '#d3e2d2',
} as const;

/** The chart on paper. */
export const PAPER_CHART: ChartLook = {
  width: 664,
  height: 130,
  font: 'Martian Mono',
  text: PAPER.quiet,
  grid: PAPER.line,
  momentary: '#9fc2cc',
  shortTerm: PAPER.signal,
  zone: PAPER.zone,
};

const e = escapeXml;

const COLOURS = { stop: PAPER.stop, warn: PAPER.warn } as const;
const colourOf = ({ grade }: ReportRow): string => (grade ? COLOURS[grade] : PAPER.fine);

const STYLE = `
@page { size: A4; margin: 16mm 14mm; }
* { box-sizing: border-box; }
body { margin: 0; background: ${PAPER.ground}; color: ${PAPER.text}; font: 400 14px/1.45 Archivo, sans-serif; }
main { max-width: 760px; margin: 0 auto; padding: 40px 24px 56px; }
header { display: flex; justify-content: space-between; gap: 16px; color: ${PAPER.quiet}; font-size: 12px; }
.mark { color: ${PAPER.text}; font-weight: 640; letter-spacing: .14em; font-stretch: 125%; }
h1 { font-size: 26px; line-height: 1.15; margin: 26px 0 2px; font-weight: 620; }
h2 { font-size: 14px; margin: 26px 0 6px; font-weight: 620; }
.quiet { color: ${PAPER.quiet}; }
.small { font-size: 12px; }
.figure { font-family: 'Martian Mono', monospace; font-stretch: 87%; font-size: 12px; font-variant-numeric: tabular-nums; }
.cards { display: grid; grid-template-columns: 1.15fr 1fr 1fr; gap: 14px; margin: 24px 0; }
.card { border: 1px solid ${PAPER.line}; border-radius: 6px; padding: 12px 14px; font-size: 12px; color: ${PAPER.quiet}; }
.card b { display: block; font-size: 17px; font-weight: 640; color: ${PAPER.text}; }
.card.good { background: ${PAPER.fineGround}; border-color: transparent; color: ${PAPER.text}; }
.card.bad { background: ${PAPER.warnGround}; border-color: transparent; color: ${PAPER.text}; }
.good b, .equal b { color: ${PAPER.fine}; }
.bad b, .apart b { color: ${PAPER.warn}; }
table { width: 100%; border-collapse: collapse; }
th { font-weight: 420; font-size: 12px; color: ${PAPER.quiet}; text-align: left; padding: 5px 8px 5px 0; }
td { border-top: 1px solid ${PAPER.line}; padding: 5px 8px 5px 0; vertical-align: top; }
th.n, td.n { text-align: right; white-space: nowrap; }
td.what { font-weight: 600; }
tr.range td { font-weight: 620; padding-top: 14px; }
.file { display: block; font-weight: 400; color: ${PAPER.quiet}; font-size: 10.5px; overflow-wrap: anywhere; }
td i { display: inline-block; width: 7px; height: 7px; border-radius: 50%; background: currentColor; margin-right: 6px; }
tr, .card, figure { break-inside: avoid; }
ul { margin: 4px 0; padding-left: 18px; }
figure { margin: 0; }
svg { width: 100%; height: auto; }
.sums td, .sums th { vertical-align: top; }
pre { margin: 4px 0; white-space: pre-wrap; overflow-wrap: anywhere; font-size: 10.5px; }
@media (max-width: 600px) {
  main { padding: 20px 16px 40px; }
  h1 { font-size: 21px; margin-top: 18px; }
  .cards { grid-template-columns: 1fr; gap: 8px; margin: 16px 0; }
  .files thead { display: none; }
  .files tr { display: grid; grid-template-columns: auto auto auto 1fr; gap: 0 14px; border-top: 1px solid ${PAPER.line}; padding: 8px 0; }
  .files td { border: 0; padding: 0; }
  .files td.what { grid-column: 1 / 4; }
  .files td.verdict { grid-column: 4; grid-row: 1; text-align: right; }
  .files td.rest { display: none; }
  .files td[data-unit]::after { content: ' ' attr(data-unit); color: ${PAPER.quiet}; }
}
`;

function fileRow(row: ReportRow): string {
  const cell = (text: string, unit: string) => `<td class="n figure" data-unit="${unit}">${e(text)}</td>`;
  return [
    '<tr>',
    `<td class="what">${e(row.what)}<span class="file figure">${e(row.file)}</span></td>`,
    `<td>${e(row.layout)}</td>`,
    cell(row.lufs, 'LUFS'),
    `<td class="n figure rest">${e(row.lu)}</td>`,
    cell(row.dbtp, 'dBTP'),
    `<td class="n figure rest">${e(row.silence)}</td>`,
    `<td class="verdict" style="color:${colourOf(row)}"><i></i>${e(row.verdict)}</td>`,
    '</tr>',
  ].join('');
}

/** The report as one page that stands by itself: its fonts and drawing are in it, and it asks nobody for anything. */
export function reportHtml(r: Report, fonts: ReportFonts): string {
  const first = r.sums[0];
  const sub = [r.client ? `for ${r.client}` : '', r.picture].filter(Boolean).join(' · ');
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${e(r.title)}, print ${r.version}</title>
<style>
@font-face { font-family: Archivo; src: url(${fonts.text}) format('woff2'); font-weight: 100 900; font-stretch: 62% 125%; }
@font-face { font-family: 'Martian Mono'; src: url(${fonts.figures}) format('woff2'); font-weight: 100 800; font-stretch: 75% 112%; }
${STYLE}</style></head><body><main>
<header><span class="mark">WIDE·ROOM</span><span>print ${r.version} · ${e(r.when)}</span></header>
<h1>${e(r.title)}</h1>
<p class="quiet" style="margin:0">${e(sub)}</p>
<div class="cards">
<div class="card ${r.verdict.good ? 'good' : 'bad'}"><b>${e(r.verdict.title)}</b>${e(r.verdict.text)}</div>
${first ? `<div class="card ${first.equal ? 'equal' : 'apart'}"><b class="figure">${e(first.figure)}</b>stems together against ${e(first.to)}</div>` : '<div class="card"><b>No sum</b>stems and reference were not both printed</div>'}
<div class="card"><b class="figure" style="font-size:13px">${e(r.start)} – ${e(r.end)}</b>${e(r.length)} · ${e(r.format)}</div>
</div>
<table class="files"><thead><tr><th>file</th><th>layout</th><th class="n">LUFS</th><th class="n">LU</th><th class="n">dBTP</th><th class="n">silence s</th><th>against the brief</th></tr></thead>
<tbody>${r.rows.map((row, i) => `${row.range && row.range !== r.rows[i - 1]?.range ? `<tr class="range"><td colspan="7">${e(row.range)}</td></tr>` : ''}${fileRow(row)}`).join('')}</tbody></table>
<p class="small quiet">${r.brief.map(e).join(' ')}</p>
${r.charts.length > 0 && r.charts.length <= MOST_CHARTS ? charts(r) : ''}
<h2>Do the stems add up?</h2>
${r.sums.length === 0 ? '<p class="small quiet">Stems and reference were not both printed; no sum was made.</p>' : ''}
${r.sums.map((s) => `<p style="margin:6px 0 0"><b style="color:${s.equal ? PAPER.fine : PAPER.warn}" class="figure">${e(s.figure)}</b> against ${e(s.to)}</p><ul class="small quiet">${s.sentences.map((t) => `<li>${e(t)}</li>`).join('')}</ul>`).join('')}
${r.passedBy.length ? `<h2>Passed by knowingly</h2><ul class="small">${r.passedBy.map((t) => `<li>${e(t)}</li>`).join('')}</ul>` : ''}
${r.notes ? `<h2>Notes</h2><p class="small" style="white-space:pre-wrap">${e(r.notes)}</p>` : ''}
<h2>Checksums, SHA-256</h2><pre class="figure quiet">${r.checksums.map((c) => e(`${c.sha256}  ${c.file}`)).join('\n')}</pre>
<p class="small quiet">${e(MEASURED)}</p>
${r.contact ? `<p class="small">${e(r.contact)}</p>` : ''}
</main></body></html>
`;
}

/** With more ranges than these their charts are left to the proof: a report is read, not leafed through. */
export const MOST_CHARTS = 12;

const SOUND_LOOK = {
  width: 664,
  height: 110,
  font: 'Martian Mono',
  text: PAPER.quiet,
  grid: PAPER.line,
  bar: PAPER.signal,
};

/** How alike left and right of the pairs of a reference are, in words. */
export const correlationText = ({ correlations }: SoundFigures): string =>
  correlations.map((c) => `${c.pair.join('/')} ${c.value.toFixed(2)} (at the least ${c.lowest.toFixed(2)})`).join(', ');

function charts(r: Report): string {
  return r.charts
    .map((c) => {
      const of = c.range ? `, ${e(c.range)}` : '';
      const behind = r.target ? `, ${r.target.at.toFixed(1)} ±${r.target.tolerance} LUFS behind them` : '';
      const sound = c.sound
        ? `<h2>Spectrum of the reference${of}</h2><figure>${soundSvg(c.sound, SOUND_LOOK)}</figure><p class="small quiet">Third octaves, dBFS.${c.sound.correlations.length ? ` Correlation of pairs: ${e(correlationText(c.sound))}.` : ''}</p>`
        : '';
      return `<h2>Loudness of the reference${of}</h2><figure>${loudnessSvg(c, r.target, PAPER_CHART, chartMarks(c))}</figure><p class="small quiet">Short-term bold, momentary thin${behind}.</p>${sound}`;
    })
    .join('');
}

/** Times below the chart: beginning, end, and what lies evenly between. */
export function chartMarks(r: ReportChart): { at: number; text: string }[] {
  const words = [r.start.slice(0, 8), r.last.slice(0, 8)];
  return [
    { at: 0, text: words[0]! },
    { at: r.seconds / 2, text: `${(r.seconds / 2).toFixed(0)} s` },
    { at: r.seconds, text: words[1]! },
  ];
}
