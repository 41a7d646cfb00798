import { beforeEach, describe, expect, it, vi } from 'vitest';
import { monoTrack, sessionWith, take } from '../../../tests/support/session';
import { leaveJudged, select, selectClips, useSelection, useSession } from '@/client';
import { takeMeant } from './floorKeys';

const doc = sessionWith(
  monoTrack('a'),
  monoTrack('b'),
  {
    type: 'addCues',
    cues: [1, 2].map((n) => ({
      id: `q${n}`,
      number: `${n}`,
      start: n * 1000,
      end: n * 1000 + 500,
      character: 'P',
      text: 'x',
    })),
  },
  take('t1', 'a', 0, 5_000),
  take('t2', 'a', 10_000, 5_000),
  take('t3', 'b', 0, 5_000),
  { type: 'setTake', track: 'a', take: 't1', cue: 'q1' },
  { type: 'setTake', track: 'b', take: 't3', cue: 'q2' },
  { type: 'seatTrack', track: 'a', armed: true },
);

beforeEach(() => {
  vi.stubGlobal('requestAnimationFrame', () => 0);
  useSession.setState({ doc, base: doc, id: 's' });
  select(null);
  cue = null;
});
let cue: string | null = null;
const meant = () => takeMeant(doc, cue)?.take.id;

describe('the take that C and H act on', () => {
  it('is the one that was clicked', () => {
    select({ kind: 'take', id: 't1' });
    cue = 'q2';
    expect(meant()).toBe('t1');
  });
  it('is that of the clip that was clicked', () => {
    select({ kind: 'clip', id: 'clip-t1' });
    expect(meant()).toBe('t1');
  });
  it('is the newest of the chosen cue', () => {
    cue = 'q1';
    expect(meant()).toBe('t1');
    cue = 'q2';
    expect(meant()).toBe('t3');
    select({ kind: 'track', id: 'a' });
    expect(meant()).toBe('t2');
  });
  it('is the newest of the armed track when nothing is chosen', () => expect(meant()).toBe('t2'));
  it('is left when another cue is worked on, not by its own, and when a new take rolls', () => {
    select({ kind: 'take', id: 't1' });
    leaveJudged(doc, 'q1');
    expect(useSelection.getState().selected).toEqual({ kind: 'take', id: 't1' });
    leaveJudged(doc, 'q2');
    expect(useSelection.getState().selected).toEqual({ kind: 'track', id: 'a' });
    selectClips(['clip-t1']);
    leaveJudged(doc, 'q2');
    expect(useSelection.getState().clips).toEqual(['clip-t1']);
    leaveJudged(doc);
    expect(meant()).toBe('t2');
  });
});
