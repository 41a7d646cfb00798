import { layoutOf } from '@/core/speakers';
import { toast } from 'sonner';
import { edit, type DeviceState } from '@/client';
import { patchLines, replacedText, type EditJson, type SessionDoc, type Track } from '@/core/session';

/** Makes edits of cords, and says what was replaced. */
export function patchTold(doc: SessionDoc, edits: readonly EditJson[]): boolean {
  const told = replacedText(doc, edits);
  const made = edit(...edits);
  if (made && told) toast.message(told, { duration: 8000 });
  return made;
}

export const unpatch = (track: string, channel: number): boolean => edit({ type: 'patch', track, channel, line: null });

/** Edits that patch lines in order, from `line` on, to all channels of a track. Throws RangeError with a hint. */
export function patchInOrder(doc: SessionDoc, device: DeviceState, line: number, track: Track): EditJson[] {
  const count = track.inputs.length;
  if (line + count > device.lines.length)
    throw new RangeError(
      `${track.name} takes ${count} lines in order, but from line ${line + 1} on ${device.name} has ${device.lines.length - line}. Nothing was patched.`,
    );
  return patchLines(
    doc,
    device,
    track.inputs.map((_, i) => line + i),
    track,
  );
}

/** The one track that a name, or its beginning, means. Throws RangeError when there is none, or more than one. */
function trackMeant(doc: SessionDoc, text: string): Track {
  const name = text.toLowerCase();
  const exact = doc.tracks.filter((t) => t.name.toLowerCase() === name);
  const found = exact.length > 0 ? exact : doc.tracks.filter((t) => t.name.toLowerCase().startsWith(name));
  if (found.length === 0) throw new RangeError(`There is no track "${text}". Nothing was patched.`);
  if (found.length > 1)
    throw new RangeError(
      `"${text}" fits ${found.map((t) => t.name).join(' and ')}. Write more of the name${exact.length > 1 ? ', or give them names of their own' : ''}; nothing was patched.`,
    );
  return found[0]!;
}

/** Reads "1 > Pilot" or "5-6 > Boat": the lines of a device to a track's channels in order; "none > Pilot" takes them out. Throws RangeError with a hint. */
export function readPatch(doc: SessionDoc, device: DeviceState, text: string): EditJson[] {
  const none = /^\s*(?:none|-|0)\s*>\s*(.+?)\s*$/i.exec(text);
  if (none) {
    const track = trackMeant(doc, none[1]!);
    return track.inputs.map((_, channel): EditJson => ({ type: 'patch', track: track.id, channel, line: null }));
  }
  const match = /^\s*(\d+)(?:\s*-\s*(\d+))?\s*>\s*(.+?)\s*$/.exec(text);
  if (!match)
    throw new RangeError(
      'Write lines and a track, for example 1 > Pilot or 5-6 > Boat; none > Pilot takes its cords out.',
    );
  const from = Number(match[1]) - 1;
  const to = match[2] ? Number(match[2]) - 1 : from;
  const track = trackMeant(doc, match[3]!);
  if (from < 0 || to < from || to >= device.lines.length)
    throw new RangeError(`${device.name} has lines 1 to ${device.lines.length}. Nothing was patched.`);
  const count = to - from + 1;
  if (count > track.inputs.length)
    throw new RangeError(
      `${track.name} is ${layoutOf(track.layout).name} and takes ${track.inputs.length} ${track.inputs.length === 1 ? 'line' : 'lines'}, not ${count}.`,
    );
  return patchLines(
    doc,
    device,
    Array.from({ length: count }, (_, i) => from + i),
    track,
  );
}
