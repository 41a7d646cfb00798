import { escapeXml } from '@/core/files';
import { layoutOf } from '@/core/speakers';
import { deviationOf } from './calibrate';
import type { Room } from './room';

const figure = (v: number | null, digits: number): string => (v === null ? 'not read' : v.toFixed(digits));

/** The sheet of a room's calibration as a page to print or keep. */
export function sheetPage(room: Room): string {
  const { calibration: c } = room;
  const { speakers } = layoutOf(room.layout);
  // Low sounds have no direction.
  const angle = (degrees: number, i: number) => (speakers[i]!.lfe ? '–' : `${degrees}°`);
  const rows = room.speakers.map((s, i) => {
    const read = c?.readings.find((r) => r.label === s.label);
    const off = read && read.after !== null ? read.after - read.wanted : null;
    const cells = [
      ...[s.label, s.port === null ? 'none' : String(s.port), angle(s.azimuth, i), angle(s.elevation, i)],
      ...[s.distance.toFixed(2), s.trim.toFixed(1), s.delay.toFixed(2), s.inverted ? 'opposite' : ''],
      ...[read ? read.wanted.toFixed(1) : '', read ? figure(read.before, 1) : ''],
      ...[read ? figure(read.after, 1) : '', off === null ? '' : `${off >= 0 ? '+' : '−'}${Math.abs(off).toFixed(1)}`],
    ];
    return `<tr>${cells.map((cell) => `<td>${escapeXml(cell)}</td>`).join('')}</tr>`;
  });
  const heads = [
    ...['speaker', 'port', 'angle', 'height', 'distance m', 'trim dB', 'delay ms', 'sign'],
    ...['asked dB SPL', 'before', 'after', 'deviation dB'],
  ];
  const deviation = c && deviationOf(c.readings);
  const words = c
    ? [
        `Calibrated ${c.at.replace('T', ' ').slice(0, 16)} UTC: ${c.level.toFixed(1)} dB SPL (${c.weighting}, slow) of one front speaker for band-limited pink noise of ${c.noise} dBFS; an LFE 10 dB above that in its band.`,
        deviation === null
          ? 'No speaker was read again after it was trimmed.'
          : `Largest deviation of what was read again: ${deviation.toFixed(1)} dB${deviation <= 0.5 ? ', within 0.5 dB' : ', more than 0.5 dB'}.`,
      ]
    : ['Never calibrated.'];
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escapeXml(room.name)}, calibration</title>
<style>
body { font: 14px/1.5 Archivo, sans-serif; margin: 32px; color: #1c2528; background: #fff; }
table { border-collapse: collapse; margin: 16px 0; }
th, td { padding: 4px 10px; text-align: right; border-bottom: 1px solid #d8d0bf; font-variant-numeric: tabular-nums; }
th { font-weight: 400; color: #5a6a6d; }
th:first-child, td:first-child { text-align: left; font-weight: 600; }
</style>
</head>
<body>
<h1>${escapeXml(room.name)}</h1>
<p>${escapeXml(layoutOf(room.layout).name)}, ${room.speakers.length} speakers.</p>
${words.map((w) => `<p>${escapeXml(w)}</p>`).join('\n')}
<table><thead><tr>${heads.map((h) => `<th>${h}</th>`).join('')}</tr></thead><tbody>
${rows.join('\n')}
</tbody></table>
${c && c.found.length > 0 ? `<h2>Found on the way</h2><ul>${c.found.map((f) => `<li>${escapeXml(f)}</li>`).join('')}</ul>` : ''}
</body>
</html>
`;
}
