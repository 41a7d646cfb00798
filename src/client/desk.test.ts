// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from 'vitest';
import { followDesk, keepOnDesk } from './desk';

const state = vi.hoisted(() => {
  const store = <T>(start: T) => {
    let now = start;
    const all = new Set<() => void>();
    return {
      getState: () => now,
      setState: (part: Partial<T>) => {
        now = { ...now, ...part };
        all.forEach((f) => f());
      },
      subscribe: (f: () => void) => {
        all.add(f);
        return () => all.delete(f);
      },
    };
  };
  return { store };
});

function newStudio() {
  const position = state.store({ position: 0, mode: 'free' });
  const list = ['eight', 'console'].map((id) => ({ id, state: 'off', unavailable: null as string | null }));
  const devices = state.store({ list, shown: 'eight' });
  const cue = state.store<{ chosen: string | null }>({ chosen: null });
  const stretch = state.store<{ stretch: { start: number; end: number } | null }>({ stretch: null });
  const on: string[] = [];
  return {
    on,
    transport: {
      state: position,
      locate: (at: number) => position.setState({ position: at }),
      setMode: (mode: string) => position.setState({ mode }),
    },
    marks: { cue, stretch, setStretch: (s: { start: number; end: number }) => stretch.setState({ stretch: s }) },
    devices: {
      state: devices,
      find: (id: string) => devices.getState().list.find((d) => d.id === id),
      show: (shown: string) => devices.setState({ shown }),
      switchOn: (id: string) => {
        on.push(id);
        devices.setState({ list: devices.getState().list.map((d) => (d.id === id ? { ...d, state: 'on' } : d)) });
      },
    },
  };
}
let studio = newStudio();
vi.mock('./studio/open', () => ({ studio: () => studio }));

beforeEach(() => {
  localStorage.clear();
  studio = newStudio();
});

it('finds playhead, mode, cue and stretch as they were left, for each session its own', () => {
  const leave = followDesk('lamp');
  studio.transport.locate(480_000);
  studio.transport.setMode('cue');
  studio.marks.cue.setState({ chosen: 'q5' });
  studio.marks.setStretch({ start: 10, end: 20 });
  leave();
  studio = newStudio();
  followDesk('other')();
  expect(studio.transport.state.getState()).toEqual({ position: 0, mode: 'free' });
  followDesk('lamp')();
  expect(studio.transport.state.getState()).toEqual({ position: 480_000, mode: 'cue' });
  expect(studio.marks.cue.getState().chosen).toBe('q5');
  expect(studio.marks.stretch.getState().stretch).toEqual({ start: 10, end: 20 });
});

it('switches devices on again that were on, once somebody has pressed something', () => {
  const leave = followDesk('lamp');
  studio.devices.switchOn('console');
  studio.devices.show('console');
  leave();
  studio = newStudio();
  const end = followDesk('lamp');
  expect(studio.devices.state.getState().shown).toBe('console');
  expect(studio.on).toEqual([]);
  window.dispatchEvent(new Event('pointerdown'));
  window.dispatchEvent(new Event('pointerdown'));
  expect(studio.on).toEqual(['console']);
  end();
  // Left before anything was pressed, it is still to be switched on the next time.
  studio = newStudio();
  const again = followDesk('lamp');
  studio.transport.locate(5);
  again();
  studio = newStudio();
  followDesk('lamp');
  window.dispatchEvent(new Event('keydown'));
  expect(studio.on).toEqual(['console']);
});

it('passes over what it cannot read', () => {
  for (const kept of [
    'no JSON',
    '[]',
    'null',
    '{"roll":7,"devices":{"on":"eight"}}',
    '{"roll":{"position":"x","mode":1}}',
  ]) {
    localStorage.setItem('wide-room-desk-lamp', kept);
    studio = newStudio();
    followDesk('lamp')();
    expect(studio.transport.state.getState()).toEqual({ position: 0, mode: 'free' });
  }
});

it('a part that comes late is put back too, and what no part has taken stays', () => {
  localStorage.setItem('wide-room-desk-lamp', '{"late":3,"never":4}');
  const leave = followDesk('lamp');
  const restored: unknown[] = [];
  let changed = () => {};
  keepOnDesk('late', () => ({
    save: () => 5,
    restore: (kept) => void restored.push(kept),
    subscribe: (f) => {
      changed = f;
      return () => {};
    },
  }));
  expect(restored).toEqual([3]);
  changed();
  leave();
  expect(JSON.parse(localStorage.getItem('wide-room-desk-lamp')!)).toMatchObject({ late: 5, never: 4 });
});
