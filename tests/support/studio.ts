import mitt from 'mitt';
import { vi } from 'vitest';
import { createStore } from 'zustand/vanilla';
import type { FromRecorder, MeterFrame, Player, PlayerEvents, Roll, ToRecorder } from '@/audio';
import type { OpenSession, SessionAccess } from '@/client/studio/access';
import type { EngineEvents } from '@/client/studio/engine';
import { newRecorderLink, type RecorderLink } from '@/client/studio/recorderLink';
import type { Guard } from '@/client/session';
import { applyEdit, readEdit, type EditJson, type FrozenNodes, type SessionDoc } from '@/core/session';
import { wasm } from './kernels';

/** A session without a server: edits are made at once, after the guards were asked. */
export function sessionAt(doc: SessionDoc, id = 'one') {
  const store = createStore<OpenSession>(() => ({ id, doc, online: true }));
  const guards = new Set<Guard>();
  const edit = (...edits: EditJson[]): boolean => {
    const before = store.getState().doc!;
    const after = edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, before);
    if ([...guards].some((g) => g(before, after, () => void edit(...edits)))) return false;
    store.setState({ doc: after });
    return true;
  };
  // Shown over what is stored, like the real one's.
  let stored = doc;
  const preview = (...edits: EditJson[]) =>
    store.setState({ doc: edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, stored) });
  const access: SessionAccess = {
    getState: store.getState,
    subscribe: store.subscribe,
    edit: (...edits) => {
      store.setState({ doc: stored });
      const done = edit(...edits);
      stored = store.getState().doc!;
      return done;
    },
    preview,
    settled: () => Promise.resolve(true),
    guard: (guard) => {
      guards.add(guard);
      return () => void guards.delete(guard);
    },
  };
  return { ...access, store, guards };
}

/** What parts of a studio hear of an engine, without one. */
export function engineStub() {
  const hear = vi.fn<(gain: number) => void>();
  const frozen: FrozenNodes = new Map();
  return { events: mitt<EngineEvents>(), player: { hear } as unknown as Player, hear, frozen };
}

export const meterFrame = (part: Partial<MeterFrame>): MeterFrame => ({
  at: 0,
  rolled: 0,
  misses: 0,
  peaks: {},
  inputs: [],
  reductions: {},
  hops: [],
  measures: 0,
  truePeak: 0,
  fold: null,
  ...part,
});

/** A player without sound: what it was told, and what it tells when the test says so. */
export class SilentPlayer {
  readonly context: { sampleRate: number };
  readonly told: string[] = [];
  rolls: Roll[] = [];
  ended = false;

  constructor(
    sampleRate: number,
    readonly events: PlayerEvents,
    readonly module: WebAssembly.Module,
  ) {
    this.context = { sampleRate };
  }

  /** Number of the plan that was given last. */
  serial = 0;

  load = (_plan: unknown, serial: number): void => {
    this.serial = serial;
    this.told.push('plan');
  };
  fit = (): boolean => false;
  place = (at: number): void => void this.told.push(`place ${at}`);
  roll = (roll: Roll): Promise<void> => {
    this.rolls.push(roll);
    return Promise.resolve();
  };
  standBy = (): void => {};
  refresh = (): void => void this.told.push('refresh');
  heardFrame = (): null => null;
  stop = (): void => void this.told.push('stop');
  end = (): void => void (this.ended = true);
  readonly outputChannels = 2;
  soundOn = (): void => {};
  test = (): Promise<number> => Promise.resolve(0);
  tellRoom = (): void => {};
  slotOf = (): number => -1;
  close = (): void => {};
}

/** Starts silent players, one after the other. */
export function silentSound() {
  const players: SilentPlayer[] = [];
  const start = (sampleRate: number, events: PlayerEvents): Promise<Player> => {
    const player = new SilentPlayer(sampleRate, events, wasm);
    players.push(player);
    return Promise.resolve(player as unknown as Player);
  };
  return { players, start };
}

/** A recorder that keeps nothing: what it was told, and what it tells when the test says so. */
export function recorderStub(): RecorderLink & { told: ToRecorder[]; say: (message: FromRecorder) => void } {
  const told: ToRecorder[] = [];
  let say: (message: FromRecorder) => void = () => {};
  const link = newRecorderLink((onMessage) => {
    say = onMessage;
    return (message) => void told.push(message);
  });
  return Object.assign(link, { told, say: (message: FromRecorder) => say(message) });
}
