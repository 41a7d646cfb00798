// A guided calibration in simulated rooms with faults: it names each of them, and ends level and in time.
import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { ChannelSet } from '@/core/kernels';
import { SoundLevelMeter } from '@/core/acoustics';
import {
  arrivalOf,
  bandOf,
  delaysFor,
  deviationOf,
  foundIn,
  MIC_PLACES,
  micAt,
  newRoom,
  portsFrom,
  setSpeaker,
  trimFor,
  wantedOf,
  type Bursts,
  type Room,
} from '@/core/rooms';
import { generator } from '@/core/signals';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { AS_BUILT, faulty, MIC_FULL_SCALE_SPL, RoomSound, type SimulatedRoom } from '.';

const k = newKernels();
const RATE = 48_000;
const NOISE = -20;

function signal(kind: Parameters<typeof generator>[2], frames: number): Float32Array {
  const set = new ChannelSet(k, 1, frames);
  set.clear(frames);
  const made = generator(k, RATE, kind);
  made.run(set.at(0), frames);
  const samples = set.view(0, frames).slice();
  made.free();
  set.free();
  return samples;
}
const noise = [false, true].map((lfe) => signal({ kind: 'pink', level: NOISE, band: bandOf(lfe) }, 3 * RATE));
const sweeps = [
  signal({ kind: 'sweep', level: -20, from: 200, to: 8000, seconds: 0.1 }, 4_800),
  signal({ kind: 'sweep', level: -20, from: 25, to: 140, seconds: 0.4 }, 19_200),
];
const rms = (x: Float32Array) => 10 * Math.log10(x.reduce((s, v) => s + v * v, 0) / x.length);

/** What the microphone hears of a signal through one speaker, driven as the room says. */
function heard(sim: SimulatedRoom, room: Room, i: number, sent: Float32Array, mic = micAt('seat')): Float32Array {
  const sound = new RoomSound(RATE, sim);
  sound.move(mic);
  const s = room.speakers[i]!;
  const frames = sent.length + 4_800;
  const wait = Math.round((s.delay / 1000) * RATE);
  const driven = new Float32Array(frames);
  const gain = 10 ** (s.trim / 20) * (s.inverted ? -1 : 1);
  for (let n = 0; n < sent.length && n + wait < frames; n++) driven[n + wait] = gain * sent[n]!;
  const ports = Array<Float32Array | undefined>(12).fill(undefined);
  ports[s.port! - 1] = driven;
  const out = new Float32Array(frames);
  sound.run(ports, out, frames);
  return out;
}

const isLfe = (room: Room, i: number) => layoutOf(room.layout).speakers[i]!.lfe;

function read(sim: SimulatedRoom, room: Room, i: number): number {
  const sent = noise[Number(isLfe(room, i))]!;
  const meter = new SoundLevelMeter(RATE);
  const out = heard(sim, room, i, sent);
  meter.run(out.subarray(0, RATE / 2));
  meter.takeMean();
  meter.run(out.subarray(RATE / 2, 3 * RATE));
  // A stretch of noise is a little louder or softer than noise is on the mean.
  return meter.takeMean()! + MIC_FULL_SCALE_SPL - (rms(sent.subarray(RATE / 2)) - NOISE);
}

function bursts(sim: SimulatedRoom, room: Room, i: number): Bursts {
  const sent = sweeps[Number(isLfe(room, i))]!;
  return Object.fromEntries(
    MIC_PLACES.map((p) => [p, arrivalOf(k, sent, heard(sim, room, i, sent, micAt(p)), 4_800)]),
  ) as Bursts;
}

/** Looks, mends what can be mended here, sets levels and delays. Returns the room and the kinds of what was found. */
function calibrate(sim: SimulatedRoom, start: Room, level: number) {
  let room = start;
  const named: string[] = [];
  for (let round = 0; round < 8; round++) {
    const found = foundIn(
      room,
      room.speakers.map((_, i) => bursts(sim, room, i)),
      RATE,
    );
    for (const f of found) {
      const name = `${f.kind} ${[...f.speakers].sort().join('/')}`;
      if (!named.includes(name)) named.push(name);
    }
    const mend = found.find((f) => f.mended);
    if (!mend) break;
    room = mend.mended!;
  }
  const wanted = wantedOf(room, level);
  const before = room.speakers.map((_, i) => read(sim, room, i));
  room.speakers.forEach((s, i) => {
    const trim = trimFor(s, before[i]!, wanted[i]!);
    if (trim !== null) room = setSpeaker(room, s.label, { trim });
  });
  const arrivals = room.speakers.map((_, i) => bursts(sim, room, i).seat?.delay ?? null);
  const delays = delaysFor(room, arrivals, RATE);
  room.speakers.forEach((s, i) => (room = setSpeaker(room, s.label, { delay: delays[i]! })));
  return { room, named, before };
}

const roomOf = (layout: LayoutId): Room => {
  const room = portsFrom(newRoom('Mixing room', 'standin-room', layout), 1);
  return {
    ...room,
    speakers: room.speakers.map((s, i) => ({ ...s, distance: AS_BUILT[i]!.distance })),
  };
};

/** What the seed made wrong among the ports, in the words of what is found. */
function truth(sim: SimulatedRoom, room: Room): string[] {
  const label = (i: number) => room.speakers[i]!.label;
  const should = layoutOf(room.layout).speakers;
  const within = sim.slice(0, room.speakers.length);
  const moved = within.flatMap((s, i) =>
    should[i]!.lfe || (s.azimuth === should[i]!.azimuth && s.elevation === should[i]!.elevation) ? [] : [label(i)],
  );
  return [
    `swapped ${moved.sort().join('/')}`,
    ...within.flatMap((s, i) => {
      // What is swapped is named by where its sound comes from.
      const at = should.findIndex((w) => !w.lfe && w.azimuth === s.azimuth && w.elevation === s.elevation);
      const name = label(at < 0 ? i : at);
      return [...(s.reversed ? [`reversed ${name}`] : []), ...(s.dead ? [`dead ${name}`] : [])];
    }),
  ];
}

describe('a calibration in a simulated room', () => {
  it.each([
    ['5.1', 3],
    ['7.1.4', 42],
  ] as const)('%s, seed %i: names every fault, ends within 0.5 dB and 0.1 ms', (layout, seed) => {
    // In 5.1 the ports 5 and 6 drive what stands at the side.
    const base =
      layout === '5.1'
        ? AS_BUILT.map((s, i) => (i === 4 || i === 5 ? { ...s, azimuth: i === 4 ? 110 : -110 } : s))
        : AS_BUILT;
    const start = roomOf(layout);
    const sim = faulty(base, { seed, ports: start.speakers.length });
    const { room, named } = calibrate(sim, start, 79);
    const kinds = named.filter((n) => !n.startsWith('distance'));
    expect(kinds.sort()).toEqual(truth(sim, start).sort());
    const wanted = wantedOf(room, 79);
    const dead = new Set(named.flatMap((n) => (n.startsWith('dead') ? [n.slice(5)] : [])));
    const alive = room.speakers.flatMap((s, i) => (dead.has(s.label) ? [] : [i]));
    const readings = alive.map((i) => ({
      ...{ label: room.speakers[i]!.label, wanted: wanted[i]!, before: null, after: read(sim, room, i) },
    }));
    expect(deviationOf(readings)).toBeLessThanOrEqual(0.5);
    const arrivals = alive.map((i) => (bursts(sim, room, i).seat!.delay / RATE) * 1000);
    expect(Math.max(...arrivals) - Math.min(...arrivals)).toBeLessThanOrEqual(0.1);
    expect(Math.min(...alive.map((i) => room.speakers[i]!.delay))).toBe(0);
    // What is written down of distances is what the room has, within 10 cm, against the middle one.
    const off = alive
      .filter((i) => !isLfe(room, i))
      .map((i) => room.speakers[i]!.distance - sim[room.speakers[i]!.port! - 1]!.distance)
      .sort((a, b) => a - b);
    expect(off.at(-1)! - off[0]!).toBeLessThanOrEqual(0.4);
  });
  it('finds nothing in a room as it was built', () => {
    const room = roomOf('7.1.4');
    expect(
      foundIn(
        room,
        room.speakers.map((_, i) => bursts(AS_BUILT, room, i)),
        RATE,
      ),
    ).toEqual([]);
  });
});
