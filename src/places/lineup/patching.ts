import { edit } from '@/client';
import type { DeviceState } from '@/client';
import { lineId, type EditJson, type SessionDoc, type Track } from '@/core/session';

/** Edits that patch a device's line to a track channel, making the line known first. */
export function patchEdits(
  doc: SessionDoc,
  device: DeviceState,
  line: number,
  track: string,
  channel: number,
): EditJson[] {
  const id = lineId(device.id, line);
  const known = doc.lines.some((l) => l.id === id);
  return [
    ...(known
      ? []
      : [
          {
            type: 'addLine' as const,
            device: device.id,
            channel: line,
            name: device.lines[line] ?? `Line ${line + 1}`,
            ...(device.sheets[line] ? { sheet: device.sheets[line] } : {}),
          },
        ]),
    { type: 'patch', track, channel, line: id },
  ];
}

export const patch = (doc: SessionDoc, device: DeviceState, line: number, track: string, channel: number): boolean =>
  edit(...patchEdits(doc, device, line, track, channel));

export const unpatch = (track: string, channel: number): boolean => edit({ type: 'patch', track, channel, line: null });

/** Edits that patch lines in order, from `line` on, to all channels of a track. Throws RangeError with a hint. */
export function patchInOrder(doc: SessionDoc, device: DeviceState, line: number, track: Track): EditJson[] {
  const count = track.inputs.length;
  if (line + count > device.lines.length)
    throw new RangeError(
      `${track.name} takes ${count} lines in order, but from line ${line + 1} on ${device.name} has ${device.lines.length - line}. Nothing was patched.`,
    );
  const clear = track.inputs.map((_, channel): EditJson => ({ type: 'patch', track: track.id, channel, line: null }));
  return [...clear, ...track.inputs.flatMap((_, i) => patchEdits(doc, device, line + i, track.id, i))];
}

/** Reads "1 > Pilot" or "5-6 > Boat": the lines of a device to a track's channels in order. Throws RangeError with a hint. */
export function readPatch(doc: SessionDoc, device: DeviceState, text: string): EditJson[] {
  const match = /^\s*(\d+)(?:\s*-\s*(\d+))?\s*>\s*(.+?)\s*$/.exec(text);
  if (!match) throw new RangeError('Write lines and a track, for example 1 > Pilot or 5-6 > Boat.');
  const from = Number(match[1]) - 1;
  const to = match[2] ? Number(match[2]) - 1 : from;
  const name = match[3]!.toLowerCase();
  const track =
    doc.tracks.find((t) => t.name.toLowerCase() === name) ??
    doc.tracks.find((t) => t.name.toLowerCase().startsWith(name));
  if (!track) throw new RangeError(`There is no track "${match[3]}". Nothing was patched.`);
  if (from < 0 || to < from || to >= device.lines.length)
    throw new RangeError(`${device.name} has lines 1 to ${device.lines.length}. Nothing was patched.`);
  const count = to - from + 1;
  if (count > track.inputs.length)
    throw new RangeError(
      `${track.name} is ${track.layout} and takes ${track.inputs.length} ${track.inputs.length === 1 ? 'line' : 'lines'}, not ${count}.`,
    );
  const clear = track.inputs
    .slice(0, count)
    .map((_, channel): EditJson => ({ type: 'patch', track: track.id, channel, line: null }));
  return [...clear, ...Array.from({ length: count }, (_, i) => patchEdits(doc, device, from + i, track.id, i)).flat()];
}
