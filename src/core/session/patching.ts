import { lineId } from './create';
import type { LineSheet, SessionDoc, Track } from './document';
import type { EditJson } from './edits';

/** What of a device is needed to patch its lines. */
export interface PatchDevice {
  id: string;
  name: string;
  /** What its lines are called, in order. */
  lines: readonly string[];
  /** How they are set, where the device tells. */
  sheets: readonly (LineSheet | null | undefined)[];
}

/** Edits that patch a device's line (from 0) to a track channel, making the line known first. */
export function patchEdits(
  doc: SessionDoc,
  device: PatchDevice,
  line: number,
  track: string,
  channel: number,
): EditJson[] {
  const id = lineId(device.id, line);
  const known = doc.lines.some((l) => l.id === id);
  const sheet = device.sheets[line];
  return [
    ...(known
      ? []
      : [
          {
            type: 'addLine' as const,
            device: device.id,
            channel: line,
            name: device.lines[line] ?? `Line ${line + 1}`,
            ...(sheet ? { sheet } : {}),
          },
        ]),
    { type: 'patch', track, channel, line: id },
  ];
}

/** Edits that give each channel of a track the line (from 0) in its place of the list; null: none. */
export function patchLines(
  doc: SessionDoc,
  device: PatchDevice,
  lines: readonly (number | null)[],
  track: Track,
): EditJson[] {
  const clear = lines.map((_, channel): EditJson => ({ type: 'patch', track: track.id, channel, line: null }));
  return [
    ...clear,
    ...lines.flatMap((line, channel) => (line === null ? [] : patchEdits(doc, device, line, track.id, channel))),
  ];
}

const lineName = (doc: SessionDoc, id: string): string => doc.lines.find((l) => l.id === id)?.name ?? id;

/** What loses its line through edits, in a sentence: one that was fed by another line is told. Null when nothing does. */
export function replacedText(doc: SessionDoc, edits: readonly EditJson[]): string | null {
  const after = new Map<string, string | null>();
  for (const e of edits) if (e.type === 'patch') after.set(`${e.track} ${e.channel}`, e.line ?? null);
  const lost = doc.tracks.flatMap((t) =>
    t.inputs.flatMap((line, channel) => {
      const now = after.get(`${t.id} ${channel}`);
      return line && now && now !== line
        ? [`${t.name}: ${lineName(doc, now)} in the place of ${lineName(doc, line)}`]
        : [];
    }),
  );
  return lost.length ? `${lost.join('; ')}. Undo brings it back.` : null;
}
