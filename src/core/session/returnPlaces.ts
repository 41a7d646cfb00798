import { layoutOf, moved, type Placement } from '@/core/speakers';
import { EditRefused, type Bus, type SessionDoc } from './document';
import type { EditJson } from './edits';

/** Where an effect stands against the sounds that it is made of. */
export type Side = 'same' | 'opposite' | 'behind';

/** Degrees between the sides of a stereo return in front, and behind. */
const FRONT_WIDTH = 60;
const REAR_WIDTH = 140;
const SPREAD: Placement = { azimuth: 0, distance: 1, width: FRONT_WIDTH, lfe: -100 };

const wrapped = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180;

/**
 * Direction in the middle of what is sent to a bus, degrees; 0 where nothing of it has a place. The mean of directions:
 * that of the sum of their unit vectors.
 */
export function middleOf(doc: SessionDoc, bus: Bus): number {
  let [x, y] = [0, 0];
  for (const t of doc.tracks) {
    if (!t.sends.some((s) => s.to === bus.id && s.on) && t.destination !== bus.id) continue;
    const angle = (t.placement.azimuth * Math.PI) / 180;
    x += Math.cos(angle) * t.placement.distance;
    y += Math.sin(angle) * t.placement.distance;
  }
  return Math.hypot(x, y) < 1e-9 ? 0 : Math.round((Math.atan2(y, x) * 180) / Math.PI);
}

/** Azimuth of a side: where the sounds are, mirrored left and right, or mirrored front and back. */
export const azimuthOf = (middle: number, side: Side): number =>
  side === 'same' ? middle : side === 'opposite' ? wrapped(-middle) : wrapped(180 - middle);

/** Which side a placed return stands on; null: elsewhere, or nowhere. The same side comes first. */
export function sideOf(doc: SessionDoc, bus: Bus): Side | null {
  if (bus.placement === null) return null;
  const middle = middleOf(doc, bus);
  const sides: Side[] = ['same', 'opposite', 'behind'];
  return sides.find((s) => Math.abs(wrapped(bus.placement!.azimuth - azimuthOf(middle, s))) < 1) ?? null;
}

/** Puts a mono or stereo return on a side. Throws EditRefused for a wider one: it goes speaker by speaker. */
export function placeReturn(doc: SessionDoc, bus: Bus, side: Side): EditJson {
  if (bus.layout !== 'mono' && bus.layout !== 'stereo')
    throw new EditRefused(
      `${bus.name} is ${layoutOf(bus.layout).name}: it goes speaker by speaker and stands on no side.`,
    );
  const azimuth = azimuthOf(middleOf(doc, bus), side);
  return { type: 'setBus', bus: bus.id, placement: moved(bus.placement ?? SPREAD, { azimuth }) };
}

/**
 * A second room behind: a stereo return with the same sends and chain, each reverb another variant, and the first one
 * in front. The first must be stereo; throws EditRefused otherwise.
 */
export function roomBehind(doc: SessionDoc, bus: Bus, id: string): EditJson[] {
  if (bus.layout !== 'stereo')
    throw new EditRefused(
      `${bus.name} is ${layoutOf(bus.layout).name}; front and rear are two stereo returns. Make it stereo first.`,
    );
  const names = new Set(doc.buses.map((b) => b.name.toLowerCase()));
  const name = [`${bus.name} behind`, ...Array.from({ length: 9 }, (_, i) => `${bus.name} behind ${i + 2}`)].find(
    (n) => !names.has(n.toLowerCase()),
  )!;
  const senders = [...doc.tracks, ...doc.buses].filter((n) => n.sends.some((s) => s.to === bus.id));
  return [
    { type: 'addBus', kind: 'return', id, name, layout: 'stereo', sources: senders.map((n) => n.id) },
    ...senders.flatMap((n): EditJson[] => {
      const { level, tap, on } = n.sends.find((s) => s.to === bus.id)!;
      return [{ type: 'setSend', owner: n.id, send: `${id}-${n.id}`, level, tap, on }];
    }),
    { type: 'sendBus', bus: id, destination: bus.destination },
    { type: 'setBus', bus: id, rooms: bus.rooms, throughSolo: bus.throughSolo, trim: bus.trim, level: bus.level },
    ...(bus.chain.length > 0
      ? [
          {
            type: 'copyChain' as const,
            owner: { kind: 'bus' as const, id: bus.id },
            to: [{ kind: 'bus' as const, id }],
          },
        ]
      : []),
    // Ids of copied stages follow from the bus and the kind (CopyChain).
    ...bus.chain
      .filter((s) => s.type === 'reverb')
      .slice(0, 1)
      .map((s): EditJson => ({
        type: 'setStage',
        owner: { kind: 'bus', id },
        stage: `${id}-reverb`,
        values: { seed: ((s.values.seed ?? 1) % 99) + 1 },
      })),
    { type: 'setBus', bus: bus.id, placement: { ...SPREAD, azimuth: 0 } },
    { type: 'setBus', bus: id, placement: { ...SPREAD, azimuth: 180, width: REAR_WIDTH } },
  ];
}
