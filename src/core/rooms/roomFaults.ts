import { layoutOf, type LayoutId } from '@/core/speakers';
import type { Room } from './room';

export interface RoomFault {
  grade: 'stop' | 'warn' | 'note';
  /** Labels of the speakers that it is about. */
  speakers: string[];
  text: string;
}

/** Output that a room plays through, as far as it is known. */
export interface RoomOutput {
  name: string;
  channels: number;
}

/** Degrees by which a speaker may stand elsewhere than its layout says (common practice, no source). */
const ASIDE = 15;

/** What is wrong with a room; `output` is null where its device is not there. */
export function roomFaults(room: Room, output: RoomOutput | null): RoomFault[] {
  const faults: RoomFault[] = [];
  const byPort = new Map<number, string[]>();
  for (const s of room.speakers) if (s.port !== null) byPort.set(s.port, [...(byPort.get(s.port) ?? []), s.label]);
  for (const [port, speakers] of byPort)
    if (speakers.length > 1)
      faults.push({
        grade: 'stop',
        speakers,
        text: `${speakers.join(' and ')} share port ${port}: each would sound what is meant for the other. Give each a port of its own.`,
      });
  const none = room.speakers.filter((s) => s.port === null).map((s) => s.label);
  if (none.length > 0)
    faults.push({
      grade: 'warn',
      speakers: none,
      text: `${none.join(', ')} ${none.length > 1 ? 'have' : 'has'} no port and stays silent.`,
    });
  if (!output)
    faults.push({ grade: 'stop', speakers: [], text: 'Its output is not there. Plug it in, or choose another.' });
  else {
    const over = room.speakers.filter((s) => (s.port ?? 0) > output.channels).map((s) => s.label);
    if (over.length > 0)
      faults.push({
        grade: 'stop',
        speakers: over,
        text: `${output.name} has ${output.channels} ports; ${over.join(', ')} ${over.length > 1 ? 'stand' : 'stands'} beyond them.`,
      });
  }
  const aside = layoutOf(room.layout).speakers.flatMap((wanted, i) => {
    const s = room.speakers[i]!;
    return !wanted.lfe && angleBetween(s, wanted) > ASIDE ? [s.label] : [];
  });
  if (aside.length > 0)
    faults.push({
      grade: 'note',
      speakers: aside,
      text: `${aside.join(', ')} ${aside.length > 1 ? 'stand' : 'stands'} more than ${ASIDE}° from where ${layoutOf(room.layout).name} has ${aside.length > 1 ? 'them' : 'it'}.`,
    });
  const muted = room.speakers.filter((s) => s.muted).map((s) => s.label);
  if (muted.length > 0)
    faults.push({ grade: 'note', speakers: muted, text: `${muted.join(', ')} muted in this room.` });
  if (!room.calibration) faults.push({ grade: 'note', speakers: [], text: 'Never calibrated.' });
  return faults;
}

/** What is wrong with the microphones of a room; `device` is null where it is not there. */
export function inputFaults(room: Room, device: { name: string; lines: number } | null): RoomFault[] {
  if (!room.inputs) return [];
  const faults: RoomFault[] = [];
  const byLine = new Map<number, string[]>();
  room.inputs.lines.forEach((line, i) => {
    if (line !== null) byLine.set(line, [...(byLine.get(line) ?? []), room.speakers[i]!.label]);
  });
  for (const [line, speakers] of byLine)
    if (speakers.length > 1)
      faults.push({
        grade: 'stop',
        speakers,
        text: `The microphones of ${speakers.join(' and ')} share line ${line}: both would be recorded with the same sound. Give each a line of its own.`,
      });
  if (!device)
    faults.push({
      grade: 'stop',
      speakers: [],
      text: 'The device of the microphones is not there. Plug it in, or choose another.',
    });
  else {
    const over = room.speakers.filter((_, i) => (room.inputs!.lines[i] ?? 0) > device.lines).map((s) => s.label);
    if (over.length > 0)
      faults.push({
        grade: 'stop',
        speakers: over,
        text: `${device.name} has ${device.lines} lines; the microphones of ${over.join(', ')} stand beyond them.`,
      });
  }
  const none = room.speakers.filter((_, i) => room.inputs!.lines[i] === null).map((s) => s.label);
  if (none.length > 0) faults.push({ grade: 'note', speakers: none, text: `No microphone for ${none.join(', ')}.` });
  return faults;
}

interface Angles {
  azimuth: number;
  elevation: number;
}

const RAD = Math.PI / 180;

/** Degrees between two directions. */
export function angleBetween(a: Angles, b: Angles): number {
  const cos =
    Math.sin(a.elevation * RAD) * Math.sin(b.elevation * RAD) +
    Math.cos(a.elevation * RAD) * Math.cos(b.elevation * RAD) * Math.cos((a.azimuth - b.azimuth) * RAD);
  return Math.acos(Math.min(1, Math.max(-1, cos))) / RAD;
}

/** Ports of an output that no speaker uses, from 1. */
export const freePorts = (room: Room, channels: number): number[] =>
  Array.from({ length: channels }, (_, i) => i + 1).filter((p) => !room.speakers.some((s) => s.port === p));

/** How a mix plays in a room, in a sentence; null where it plays as it is. */
export function playedAs(room: Room, mix: LayoutId): string | null {
  if (room.layout === mix) return null;
  const [from, to] = [layoutOf(mix), layoutOf(room.layout)];
  const missing = from.speakers.filter((s) => !to.speakers.some((t) => t.label === s.label)).map((s) => s.label);
  if (missing.length === 0) return `The mix is in ${from.name}; the other speakers of ${to.name} stay silent.`;
  return `The mix is in ${from.name}, the room in ${to.name}: what is meant for ${missing.join(', ')} is folded into the others.`;
}
