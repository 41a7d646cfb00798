import { lineId } from './lineIds';
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

interface Cord {
  track: string;
  channel: number;
}

/**
 * Edits that move a cord to another channel; where one is already, the two change places, so that no line is lost.
 * Throws RangeError when there is no cord, or no such channel.
 */
export function moveCord(doc: SessionDoc, from: Cord, to: Cord): EditJson[] {
  const at = ({ track, channel }: Cord) => {
    const inputs = doc.tracks.find((t) => t.id === track)?.inputs;
    if (!inputs || channel < 0 || channel >= inputs.length) throw new RangeError('There is no such channel.');
    return inputs[channel] ?? null;
  };
  const [moved, there] = [at(from), at(to)];
  if (moved === null) throw new RangeError('There is no cord to be moved.');
  if (from.track === to.track && from.channel === to.channel) return [];
  return settled([
    { ...from, line: there },
    { ...to, line: moved },
  ]);
}

/** Edits by which two lines change places wherever they are patched. */
export function swapLines(doc: SessionDoc, one: string, other: string): EditJson[] {
  return settled(
    doc.tracks.flatMap((t) =>
      t.inputs.flatMap((line, channel) =>
        line === one || line === other ? [{ track: t.id, channel, line: line === one ? other : one }] : [],
      ),
    ),
  );
}

/** All cords come out first: on its way a track must not have one line twice. */
const settled = (cords: (Cord & { line: string | null })[]): EditJson[] => [
  ...cords.map(({ track, channel }): EditJson => ({ type: 'patch', track, channel, line: null })),
  ...cords.flatMap(({ track, channel, line }): EditJson[] =>
    line === null ? [] : [{ type: 'patch', track, channel, line }],
  ),
];

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
