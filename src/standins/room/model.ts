import { SPEED_OF_SOUND } from '@/core/acoustics';
import { layoutOf } from '@/core/speakers';

/** A loudspeaker of the simulated room, as it really is. */
export interface SimulatedSpeaker {
  azimuth: number;
  elevation: number;
  /** Metres from the seat. */
  distance: number;
  /** dB by which it is louder than its kind. */
  gain: number;
  reversed: boolean;
  dead: boolean;
  /** Plays low sounds only. */
  sub: boolean;
}

/** Twelve loudspeakers on the ports 1 to 12. */
export type SimulatedRoom = readonly SimulatedSpeaker[];

export const TWELVE_PORTS = 12;

/** As built: 7.1.4, ports in the order of the layout, each a little off. */
export const AS_BUILT: SimulatedRoom = layoutOf('7.1.4').speakers.map(({ azimuth, elevation, lfe }, i) => ({
  ...{ azimuth, elevation: lfe ? -25 : elevation, distance: 2 + (i % 4) * 0.12 },
  ...{ gain: ((i * 5) % 7) * 0.4 - 1.2, reversed: false, dead: false, sub: lfe },
}));

/** Numbers between 0 and 1 that a seed decides (mulberry32, a public-domain generator). */
function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Faults among the first `ports` loudspeakers, for practice and tests: which they are, the seed decides. */
export interface RoomFaults {
  seed: number;
  ports: number;
}

/** Levels up to 6 dB off, distances up to 0.6 m, and one swapped pair, one reversed and one dead loudspeaker. */
export function faulty(room: SimulatedRoom, { seed, ports }: RoomFaults): SimulatedRoom {
  const next = seeded(seed);
  const off = room.map((s, i) =>
    i < ports
      ? { ...s, gain: (next() * 2 - 1) * 6, distance: Math.round((s.distance + (next() - 0.5) * 1.2) * 100) / 100 }
      : s,
  );
  const free = off.flatMap((s, i) => (i < ports && !s.sub ? [i] : []));
  const take = () => free.splice(Math.floor(next() * free.length), 1)[0];
  const [one, other] = [take(), take()];
  if (one !== undefined && other !== undefined) [off[one], off[other]] = [off[other]!, off[one]!];
  const reversed = take();
  if (reversed !== undefined) off[reversed] = { ...off[reversed]!, reversed: true };
  // Of few loudspeakers none is left to fail.
  const dead = free.length > 1 ? take() : undefined;
  if (dead !== undefined) off[dead] = { ...off[dead]!, dead: true };
  return off;
}

export type Point = readonly [front: number, left: number, up: number];

/** What the simulated room is told: what is wrong in it, or where the microphone stands. */
export type ToRoom = { faults: RoomFaults | null } | { mic: Point };

const RAD = Math.PI / 180;

const placeOf = ({ azimuth, elevation, distance }: SimulatedSpeaker): Point => [
  distance * Math.cos(elevation * RAD) * Math.cos(azimuth * RAD),
  distance * Math.cos(elevation * RAD) * Math.sin(azimuth * RAD),
  distance * Math.sin(elevation * RAD),
];

/** dB SPL at 1 m for noise of 0 dBFS (RMS), and level of the microphone at 0 dB SPL below full scale (RMS). */
export const SPEAKER_SPL = 105;
export const MIC_FULL_SCALE_SPL = 120;
/** A subwoofer plays its band so much louder (as most have it switched on). */
const SUB_GAIN = 6;
const SUB_HZ = 120;

/** Sound that falls back: places of the mirror images of a loudspeaker, and what is left of it. Metres from the seat. */
const FLOOR = -1.2;
const CEILING = 2.6;
const REAR_WALL = -3.4;
const REFLECTED = 0.22;

interface Way {
  /** Samples, and linear gain. */
  delay: number;
  gain: number;
}

function waysTo(speaker: SimulatedSpeaker, mic: Point, rate: number): Way[] {
  const [x, y, z] = placeOf(speaker);
  const images: [Point, number][] = [
    [[x, y, z], 1],
    [[x, y, 2 * FLOOR - z], REFLECTED],
    [[x, y, 2 * CEILING - z], REFLECTED],
    [[2 * REAR_WALL - x, y, z], REFLECTED],
  ];
  const loud = 10 ** ((SPEAKER_SPL - MIC_FULL_SCALE_SPL + speaker.gain + (speaker.sub ? SUB_GAIN : 0)) / 20);
  return images.map(([image, share]) => {
    const metres = Math.hypot(image[0] - mic[0], image[1] - mic[1], image[2] - mic[2]);
    return { delay: Math.round((metres / SPEED_OF_SOUND) * rate), gain: (loud * share) / metres };
  });
}

/** dB SPL of the room itself. */
const ROOM_NOISE_SPL = 28;
/** The farthest image is heard within so many seconds. */
const MOST_SECONDS = 0.08;

interface Channel {
  ring: Float32Array;
  /** Frames since something came; past the length of the ring nothing is heard of it. */
  quiet: number;
  ways: Way[];
  sign: number;
  low: { a: number; z1: number; z2: number } | null;
}

/** What a measuring microphone hears of what the ports are given. */
export class RoomSound {
  private channels: Channel[] = [];
  private at = 0;
  private mic: Point = [0, 0, 0];
  private readonly size: number;
  private readonly noise: number;
  private readonly random = seeded(7);

  constructor(
    private readonly rate: number,
    private room: SimulatedRoom = AS_BUILT,
  ) {
    this.size = 2 ** Math.ceil(Math.log2(MOST_SECONDS * rate));
    // Even noise in ±1 has a mean square of a third.
    this.noise = 10 ** ((ROOM_NOISE_SPL - MIC_FULL_SCALE_SPL) / 20) * Math.sqrt(3);
    this.build();
  }

  set(room: SimulatedRoom): void {
    this.room = room;
    this.build();
  }

  move(mic: Point): void {
    this.mic = mic;
    this.build();
  }

  private build(): void {
    const low = 1 - Math.exp((-2 * Math.PI * SUB_HZ) / this.rate);
    this.channels = this.room.map((s, i) => ({
      ring: this.channels[i]?.ring ?? new Float32Array(this.size),
      quiet: this.channels[i]?.quiet ?? this.size,
      ways: s.dead ? [] : waysTo(s, this.mic, this.rate),
      sign: s.reversed ? -1 : 1,
      low: s.sub ? { a: low, z1: 0, z2: 0 } : null,
    }));
  }

  /** Adds what is heard of `n` frames of the ports to `out`. */
  run(ports: readonly (Float32Array | undefined)[], out: Float32Array, n: number): void {
    const mask = this.size - 1;
    for (let c = 0; c < this.channels.length; c++) {
      const channel = this.channels[c]!;
      const { ring, ways, sign, low } = channel;
      const samples = ports[c];
      channel.quiet = samples?.some((x) => x !== 0) ? 0 : channel.quiet + n;
      if (channel.quiet > this.size) continue;
      for (let i = 0; i < n; i++) {
        let x = sign * (samples?.[i] ?? 0);
        if (low) {
          low.z1 += low.a * (x - low.z1);
          low.z2 += low.a * (low.z1 - low.z2);
          x = low.z2;
        }
        const at = (this.at + i) & mask;
        ring[at] = x;
        for (const { delay, gain } of ways) out[i] = out[i]! + gain * ring[(at - delay) & mask]!;
      }
    }
    this.at += n;
    for (let i = 0; i < n; i++) out[i] = out[i]! + this.noise * (this.random() * 2 - 1);
  }
}
