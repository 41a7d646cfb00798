import { SPEED_OF_SOUND, travelTime, weightA, weightC, type Weighting } from '@/core/acoustics';
import { layoutOf } from '@/core/speakers';
import type { Arrival } from './arrival';
import { directionOf, swappedPairs, type Direction, type MicPlace } from './direction';
import { ROOM_LIMITS, type Reading, type Room, type RoomSpeaker } from './room';

/** Weightings of the meters that rooms are set by. */
export type MeterWeighting = Exclude<Weighting, 'Z'>;

/** What a level is set to, with where it comes from. */
export interface ReferenceLevel {
  id: string;
  name: string;
  source: string;
  /** dBFS (RMS) of the noise. */
  noise: number;
  /** dB SPL (slow) of one front speaker, given how many speakers there are beside the LFE. */
  level: (speakers: number) => number;
  /** dB by which surrounds are softer. */
  surround: number;
  /** How the meter is set. */
  weighting: MeterWeighting;
}

export const REFERENCE_LEVELS: readonly ReferenceLevel[] = [
  {
    id: 'near',
    name: 'Near-field room, 79 dB',
    source: 'common practice, no source',
    noise: -20,
    level: () => 79,
    surround: 0,
    weighting: 'C',
  },
  {
    id: 'film',
    name: 'Film stage, 85 dB, surrounds 82',
    source: 'SMPTE RP 200, values from memory',
    noise: -20,
    level: () => 85,
    surround: -3,
    weighting: 'C',
  },
  {
    id: 'r128',
    name: 'Broadcast room, 85 - 10 log n',
    source: 'EBU Tech 3276 beside R 128, values from memory',
    noise: -18,
    level: (n) => 85 - 10 * Math.log10(n),
    surround: 0,
    weighting: 'A',
  },
];

/** Band of the noise (Hz): where rooms colour it least; for an LFE where that plays (common practice, no source). */
export const bandOf = (lfe: boolean): readonly [number, number] => (lfe ? [40, 80] : [500, 2000]);

/** LFE: in its band 10 dB above one front speaker (SMPTE RP 200). */
const LFE_GAIN = 10;

/** By how much a meter reads pink noise of a band lower than it is, dB: the mean of its weighting over the octaves. */
export function readLow([low, high]: readonly [number, number], weighting: MeterWeighting = 'C'): number {
  const weight = weighting === 'A' ? weightA : weightC;
  const steps = 64;
  let power = 0;
  for (let i = 0; i < steps; i++) power += 10 ** (weight(low * (high / low) ** ((i + 0.5) / steps)) / 10);
  return 10 * Math.log10(power / steps);
}

/** What a meter at the seat must read of each speaker. `level`: of one front speaker, dB SPL. */
export function wantedOf(room: Room, level: number, surround = 0, weighting: MeterWeighting = 'C'): number[] {
  return layoutOf(room.layout).speakers.map((s) => {
    const aside = !s.lfe && (Math.abs(s.azimuth) > 60 || s.elevation > 15) ? surround : 0;
    return level + (s.lfe ? LFE_GAIN : aside) + readLow(bandOf(s.lfe), weighting);
  });
}

/** The trim that brings a reading to what is wanted; null where it is out of reach. */
export function trimFor(speaker: RoomSpeaker, read: number, wanted: number): number | null {
  const trim = Math.round((speaker.trim + wanted - read) * 10) / 10;
  return trim < ROOM_LIMITS.trim.min || trim > ROOM_LIMITS.trim.max ? null : trim;
}

/** Delays (ms) with which all arrive together, from how they arrive now (samples; null: unknown, it stays). */
export function delaysFor(room: Room, arrivals: readonly (number | null)[], rate: number): number[] {
  const known = arrivals.filter((a): a is number => a !== null);
  const latest = Math.max(...known);
  const raw = room.speakers.map((s, i) => {
    const at = arrivals[i];
    return at == null ? s.delay : s.delay + ((latest - at) / rate) * 1000;
  });
  const least = Math.min(...raw.filter((_, i) => arrivals[i] != null));
  return raw.map((d, i) => (arrivals[i] == null ? d : Math.round(Math.max(0, d - least) * 100) / 100));
}

/** Delays (ms) with which all arrive with the farthest, from their distances. */
export function delaysByDistance(room: Room): number[] {
  const farthest = Math.max(...room.speakers.map((s) => s.distance));
  return room.speakers.map((s) => Math.round(travelTime(farthest - s.distance) * 100_000) / 100);
}

/** What bursts of a speaker gave at the four places of the microphone; null: not heard there. */
export type Bursts = Record<MicPlace, Arrival | null>;

export interface Found {
  kind: 'dead' | 'swapped' | 'reversed' | 'distance';
  speakers: string[];
  text: string;
  /** The room as it is when that is mended here; null: it can be mended at the cable only. */
  mended: Room | null;
}

/** Metres by which a distance may differ from what was written down: half a millisecond. */
const AWAY = 0.17;

/** What is wrong with a room, by bursts of each of its speakers (null: not measured). */
export function foundIn(room: Room, bursts: readonly (Bursts | null)[], rate: number): Found[] {
  const { speakers } = layoutOf(room.layout);
  const found: Found[] = [];
  const heard = room.speakers.map((s, i) => ({ ...s, i, bursts: bursts[i] ?? null, lfe: speakers[i]!.lfe }));
  for (const { label, bursts: b, port } of heard)
    if (b && !b.seat)
      found.push({
        kind: 'dead',
        speakers: [label],
        text: `${label} is not heard at all. Its amplifier is off, its cable loose, or it hangs on another port than ${port ?? 'none'}.`,
        mended: null,
      });
  const alive = heard.filter((h) => h.bursts?.seat && !h.lfe);
  const places = alive.map((h) => ({ ...h, from: directionBy(h.bursts!, h.distance, rate) }));
  for (const [a, b] of swappedPairs(places))
    found.push({
      kind: 'swapped',
      speakers: [a, b],
      text: `${a} is heard where ${b} should stand, and ${b} where ${a} should: their cables are swapped.`,
      mended: swapPorts(room, a, b),
    });
  // Driven as they are now, most of them answer alike.
  const usual = alive.reduce((sum, h) => sum + h.bursts!.seat!.sign, 0) >= 0 ? 1 : -1;
  for (const h of alive) {
    if (h.bursts!.seat!.sign === usual) continue;
    found.push({
      kind: 'reversed',
      speakers: [h.label],
      text: `${h.label} answers with the opposite sign: together with its neighbours it cancels low sounds. Most likely the two wires of its cable are exchanged.`,
      mended: setSpeaker(room, h.label, { inverted: !h.inverted }),
    });
  }
  const swapped = new Set(found.filter((f) => f.kind === 'swapped').flatMap((f) => f.speakers));
  found.push(
    ...wrongDistances(
      room,
      alive.filter((h) => !swapped.has(h.label)),
      rate,
    ),
  );
  return found;
}

function directionBy(b: Bursts, distance: number, rate: number): Direction | null {
  if (!b.seat || !b.front || !b.left || !b.up) return null;
  const delays = { seat: b.seat.delay, front: b.front.delay, left: b.left.delay, up: b.up.delay };
  return directionOf(delays, distance, rate);
}

// How late the machine itself is nobody knows: distances are told against the middle one.
function wrongDistances(
  room: Room,
  alive: readonly (RoomSpeaker & { bursts: Bursts | null })[],
  rate: number,
): Found[] {
  if (alive.length < 3) return [];
  const metres = (h: (typeof alive)[number]) => (h.bursts!.seat!.delay / rate - h.delay / 1000) * SPEED_OF_SOUND;
  const late = alive.map((h) => metres(h) - h.distance).sort((a, b) => a - b);
  const middle = late[Math.floor(late.length / 2)]!;
  return alive.flatMap((h): Found[] => {
    const distance = Math.round((metres(h) - middle) * 100) / 100;
    const { min, max } = ROOM_LIMITS.distance;
    if (Math.abs(distance - h.distance) <= AWAY || distance < min || distance > max) return [];
    return [
      {
        kind: 'distance',
        speakers: [h.label],
        text: `${h.label} is heard from ${distance.toFixed(2)} m; ${h.distance.toFixed(2)} m is written down.`,
        mended: setSpeaker(room, h.label, { distance }),
      },
    ];
  });
}

export const setSpeaker = (room: Room, label: string, part: Partial<RoomSpeaker>): Room => ({
  ...room,
  speakers: room.speakers.map((s) => (s.label === label ? { ...s, ...part } : s)),
});

function swapPorts(room: Room, a: string, b: string): Room {
  const port = (label: string) => room.speakers.find((s) => s.label === label)!.port;
  const [pa, pb] = [port(a), port(b)];
  return setSpeaker(setSpeaker(room, a, { port: pb }), b, { port: pa });
}

/** Largest distance of readings from what was wanted, dB; null while none is there. */
export function deviationOf(readings: readonly Reading[]): number | null {
  const by = readings.flatMap((r) => (r.after === null ? [] : [Math.abs(r.after - r.wanted)]));
  return by.length > 0 ? Math.max(...by) : null;
}
