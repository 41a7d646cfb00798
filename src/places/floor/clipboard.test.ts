import { beforeEach, expect, it, vi } from 'vitest';
import { monoTrack, sessionWith, take } from '../../../tests/support/session';
import { useSession } from '@/client';
import type { SessionDoc } from '@/core/session';
import { copyClips, cutClips, pasteClips } from './clipboard';

const said = vi.hoisted(() => ({ all: [] as string[] }));
vi.mock('sonner', () => {
  const say = (text: string) => void said.all.push(text);
  return { toast: Object.assign(say, { error: say, warning: say, message: say, dismiss: () => {} }) };
});

const RATE = 48_000;
const doc = (): SessionDoc => useSession.getState().doc!;
const clips = () => doc().tracks.flatMap((t) => t.clips.map((c) => ({ ...c, track: t.id })));
const clip = (id: string) =>
  doc()
    .tracks.flatMap((t) => t.clips)
    .find((c) => c.id === id)!;

beforeEach(() => {
  vi.stubGlobal('fetch', () => new Promise(() => {}));
  vi.stubGlobal('requestAnimationFrame', () => 0);
  said.all = [];
  const start = sessionWith(
    monoTrack('a'),
    monoTrack('b'),
    take('t1', 'a', RATE, 2 * RATE),
    take('t2', 'b', 4 * RATE, RATE),
    { type: 'shapeClip', clip: 'clip-t1', fadeIn: { frames: 480, curve: 'power' }, name: 'Lamp' },
    { type: 'setClipGain', clip: 'clip-t1', gain: -3 },
  );
  useSession.setState({ doc: start, base: start, id: 's', pending: [] });
});

it('places a clip that was cut out, as it was', () => {
  const before = clip('clip-t1');
  cutClips(doc(), [before]);
  expect(clips().map((c) => c.track)).toEqual(['b']);
  pasteClips(10 * RATE);
  const [pasted] = clips().filter((c) => c.track === 'a');
  expect(pasted).toMatchObject({
    start: 10 * RATE,
    media: before.media,
    offset: before.offset,
    length: before.length,
    gain: -3,
    name: 'Lamp',
    fadeIn: { frames: 480, curve: 'power' },
  });
});

it('places several on their own tracks, as they stood to each other, as often as wanted', () => {
  copyClips(doc(), [clip('clip-t1'), clip('clip-t2')]);
  pasteClips(20 * RATE);
  pasteClips(40 * RATE);
  expect(
    clips()
      .map((c) => [c.track, c.start / RATE])
      .sort((a, b) => String(a).localeCompare(String(b))),
  ).toEqual(
    [
      ['a', 1],
      ['a', 20],
      ['a', 40],
      ['b', 4],
      ['b', 23],
      ['b', 43],
    ].sort((a, b) => String(a).localeCompare(String(b))),
  );
});

it('a locked clip is not cut, and what was kept before stays', () => {
  copyClips(doc(), [clip('clip-t2')]);
  const locked = sessionWith(monoTrack('a'), take('t1', 'a', RATE, RATE), {
    type: 'shapeClip',
    clip: 'clip-t1',
    locked: true,
  });
  useSession.setState({ doc: locked, base: locked, pending: [] });
  cutClips(doc(), [clip('clip-t1')]);
  expect(clips()).toHaveLength(1);
  expect(said.all.join(' ')).toContain('locked');
});

it('says so where nothing is chosen', () => {
  cutClips(doc(), []);
  expect(said.all).toEqual(['No clip is chosen.']);
});
