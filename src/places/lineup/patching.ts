import { layoutOf } from '@/core/speakers';
import { toast } from 'sonner';
import { edit, type DeviceState } from '@/client';
import { patchEdits, patchLines, replacedText, type EditJson, type SessionDoc, type Track } from '@/core/session';

/** Makes edits of cords, and says what was replaced; `kept`: nothing was, since what was there went elsewhere. */
export function patchTold(doc: SessionDoc, edits: readonly EditJson[], kept = false): boolean {
  if (edits.length === 0) return true;
  const told = kept ? null : replacedText(doc, edits);
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

/** "1", "5-6", "1, 3 and 5" as lines from 0 on; null: it is none. */
function linesMeant(text: string): number[] | null {
  const lines: number[] = [];
  for (const part of text.split(/\s*(?:,|;|\+|&|\band\b)\s*/)) {
    const match = /^(\d{1,3})(?:\s*(?:-|–|to)\s*(\d{1,3}))?$/.exec(part.trim());
    if (!match) return null;
    const [from, to] = [Number(match[1]), Number(match[2] ?? match[1])];
    for (let n = from; from <= to ? n <= to : n >= to; n += from <= to ? 1 : -1) lines.push(n - 1);
  }
  return lines;
}

/** The track that a text means, and from which of its channels on: "Boat", "Boat.R", "Surf Ls". */
function placeMeant(doc: SessionDoc, text: string): { track: Track; channel: number; one: boolean } {
  const parts = /^(.+?)[.\s]\s*(\S{1,4})$/.exec(text);
  const exact = doc.tracks.some((t) => t.name.toLowerCase() === text.toLowerCase());
  if (parts && !exact) {
    try {
      const track = trackMeant(doc, parts[1]!);
      const labels = layoutOf(track.layout).speakers.map((s) => s.label.toLowerCase());
      const channel = labels.indexOf(parts[2]!.toLowerCase());
      if (channel >= 0 && labels.length > 1) return { track, channel, one: true };
      if (text.includes('.'))
        throw new RangeError(
          `${track.name} has no channel "${parts[2]}"; it has ${layoutOf(track.layout)
            .speakers.map((s) => s.label)
            .join(', ')}. Nothing was patched.`,
        );
    } catch (error) {
      // Perhaps its last word belongs to its name.
      if (text.includes('.')) throw error;
    }
  }
  return { track: trackMeant(doc, text), channel: 0, one: false };
}

/**
 * Reads what is typed: "1 > Pilot", "5-6 > Boat" or "1,2 > Boat" (lines in order), "3 > Boat.R" (one channel), "none >
 * Pilot" (its cords come out). Throws RangeError with a hint.
 */
export function readPatch(doc: SessionDoc, device: DeviceState, text: string): EditJson[] {
  const [left = '', ...right] = text.split('>').map((part) => part.trim());
  const to = right.join('>');
  const out = /^(none|-|0)$/i.test(left);
  const lines = out ? [] : linesMeant(left);
  if (!to || lines === null || (lines.length === 0 && !out))
    throw new RangeError(
      'Write lines and a track, for example 1 > Pilot, 5-6 > Boat, 1,2 > Boat or 3 > Boat.R; none > Pilot takes its cords out.',
    );
  const { track, channel, one } = placeMeant(doc, to);
  if (out)
    return track.inputs.flatMap((_, c): EditJson[] =>
      one && c !== channel ? [] : [{ type: 'patch', track: track.id, channel: c, line: null }],
    );
  if (lines.some((l) => l < 0 || l >= device.lines.length))
    throw new RangeError(`${device.name} has lines 1 to ${device.lines.length}. Nothing was patched.`);
  const twice = lines.find((l, i) => lines.indexOf(l) !== i);
  if (twice !== undefined) throw new RangeError(`Line ${twice + 1} stands twice in "${left}". Nothing was patched.`);
  const room = track.inputs.length - channel;
  if (lines.length > room)
    throw new RangeError(
      `${track.name} is ${layoutOf(track.layout).name} and takes ${room} ${room === 1 ? 'line' : 'lines'}${one ? ' from there on' : ''}, not ${lines.length}. Nothing was patched.`,
    );
  if (one) return lines.flatMap((line, i) => patchEdits(doc, device, line, track.id, channel + i));
  return patchLines(doc, device, lines, track);
}
