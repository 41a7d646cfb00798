/** What of a session says where sound goes: all that the list of links is made of. */

export const MONITOR = 'monitor';

/**
 * Where a link takes its sound: as it arrives (after the trim, before the chain), after the chain but before the level,
 * or after level and mute.
 */
export type Tap = 'arriving' | 'before' | 'after';
export const TAPS: readonly Tap[] = ['arriving', 'before', 'after'];

export type BusKind = 'stem' | 'reference' | 'bus' | 'return';

/** One return for all stems that feed it, or one room for each: what a stem sends comes back in that stem. */
export type Rooms = 'shared' | 'each stem';

export interface PathSend {
  id: string;
  /** Id of a bus. */
  to: string;
  tap: Tap;
  on: boolean;
}

export interface PathNode {
  id: string;
  /** Id of a bus; 'monitor' goes straight to the monitor; null: nowhere. */
  destination: string | null;
  sends: readonly PathSend[];
  chain: readonly { id: string; on: boolean; key?: string }[];
  soloed?: boolean;
}

export interface PathTrack extends PathNode {
  /** Per channel: the line patched to it. */
  inputs: readonly (string | null)[];
}

export interface PathBus extends PathNode {
  kind: BusKind;
  /** Of a return: whether it is kept apart per stem. */
  rooms: Rooms;
  /** Heard although something else is soloed, as far as what feeds it is heard. */
  throughSolo: boolean;
  /** Of a reference: stems that do not go into it. */
  leftOut: readonly string[];
  /** Of a reference: whether its stems are limited together. */
  linked: { on: boolean } | null;
}

export interface PathDoc<T extends PathTrack = PathTrack, B extends PathBus = PathBus> {
  tracks: readonly T[];
  buses: readonly B[];
}
