import { studio } from './studio/open';

/** A part of the desk that is found again as it was left. */
export interface DeskPart {
  /** As plain JSON; undefined: nothing is kept of it. */
  save(): unknown;
  /** What was kept of it, or undefined; whatever else comes out of the store is passed over. */
  restore(kept: unknown): void;
  /** Tells of each change; returns what ends that. */
  subscribe(changed: () => void): () => void;
}

const parts = new Map<string, (session: string) => DeskPart>();
/** Takes a part in that comes while a desk is followed. */
let join: ((name: string, part: (session: string) => DeskPart) => void) | null = null;

/** Says that a part of the desk is kept with the session; what places show registers itself, some of it late. */
export function keepOnDesk(name: string, part: (session: string) => DeskPart): void {
  parts.set(name, part);
  join?.(name, part);
}

const keyOf = (session: string): string => `wide-room-desk-${session}`;
/** What changes often is written once it rests (ms). */
const RESTS = 300;

function read(session: string): Record<string, unknown> {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(session)) ?? '{}') as unknown;
    return typeof kept === 'object' && kept !== null ? (kept as Record<string, unknown>) : {};
  } catch {
    // What cannot be read is a desk that was never left.
    return {};
  }
}

/** Puts the desk of a session back as it was left in this browser, and keeps it from now on; returns what ends that. */
export function followDesk(session: string): () => void {
  const kept = read(session);
  const open = new Map<string, DeskPart>();
  const ends: (() => void)[] = [];
  let timer: ReturnType<typeof setTimeout> | undefined;
  const write = () => {
    clearTimeout(timer);
    timer = undefined;
    // What is shown by a place that was not looked at yet stays as it was kept.
    const now = { ...kept, ...Object.fromEntries([...open].map(([name, part]) => [name, part.save()])) };
    try {
      localStorage.setItem(keyOf(session), JSON.stringify(now));
    } catch {
      // A browser that keeps nothing opens an empty desk; the session itself is on the server.
    }
  };
  const add = (name: string, make: (session: string) => DeskPart) => {
    if (open.has(name)) return;
    const part = make(session);
    open.set(name, part);
    part.restore(kept[name]);
    ends.push(part.subscribe(() => void (timer ??= setTimeout(write, RESTS))));
  };
  join = add;
  parts.forEach((part, name) => add(name, part));
  const leave = () => timer !== undefined && write();
  addEventListener('pagehide', leave);
  return () => {
    join = null;
    leave();
    removeEventListener('pagehide', leave);
    ends.forEach((end) => end());
  };
}

const isNumber = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);
const MODES = ['free', 'range', 'cue', 'loop'] as const;

/** Playhead, what the record key records, the chosen cue and stretch. */
keepOnDesk('roll', () => {
  const { transport, marks } = studio();
  return {
    save() {
      const { position, mode } = transport.state.getState();
      return { position, mode, ...marks.cue.getState(), ...marks.stretch.getState() };
    },
    restore(kept) {
      const { position, mode, chosen, stretch } = (kept ?? {}) as Record<string, unknown>;
      if (isNumber(position)) transport.locate(position);
      const known = MODES.find((m) => m === mode);
      if (known) transport.setMode(known);
      if (typeof chosen === 'string') marks.cue.setState({ chosen });
      const { start, end } = (stretch ?? {}) as Record<string, unknown>;
      if (isNumber(start) && isNumber(end)) marks.setStretch({ start, end });
    },
    subscribe(changed) {
      const ends = [transport.state, marks.cue, marks.stretch].map((store) =>
        (store as { subscribe(f: () => void): () => void }).subscribe(changed),
      );
      return () => ends.forEach((end) => end());
    },
  };
});

/** Devices that were on: sound may begin only after somebody has pressed something, so they are switched on then. */
keepOnDesk('devices', () => {
  const { devices } = studio();
  let wanted: string[] = [];
  const start = () => {
    removeEventListener('pointerdown', start, true);
    removeEventListener('keydown', start, true);
    for (const id of wanted) {
      const device = devices.find(id);
      if (device?.state === 'off' && device.unavailable === null) void devices.switchOn(id);
    }
    wanted = [];
  };
  return {
    save() {
      const { list, shown } = devices.state.getState();
      return { on: [...wanted, ...list.filter((d) => d.state === 'on').map((d) => d.id)], shown };
    },
    restore(kept) {
      const { on, shown } = (kept ?? {}) as Record<string, unknown>;
      if (typeof shown === 'string' && devices.find(shown)) devices.show(shown);
      wanted = Array.isArray(on) ? on.filter((id): id is string => typeof id === 'string') : [];
      if (wanted.length === 0) return;
      addEventListener('pointerdown', start, true);
      addEventListener('keydown', start, true);
    },
    subscribe(changed) {
      const end = devices.state.subscribe(changed);
      return () => {
        end();
        wanted = [];
        removeEventListener('pointerdown', start, true);
        removeEventListener('keydown', start, true);
      };
    },
  };
});
