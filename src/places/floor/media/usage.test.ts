import { describe, expect, it } from 'vitest';
import type { MediaRef } from '@/core/session';
import { filesFound, type Usage } from './usage';

const file = (id: string, kind: MediaRef['kind'] = 'file'): Usage => ({
  media: { id, name: `${id}.wav`, kind } as MediaRef,
  clips: [],
  takes: 0,
  used: true,
});
const ids = (found: Usage[]) => found.map((u) => u.media.id);

describe('files of a session', () => {
  const all = [file('pad'), file('wind'), file('pilot-dry', 'dry'), file('foghorn')];

  it('stand in the session’s order, without untouched copies', () => {
    expect(ids(filesFound(all, '', []))).toEqual(['pad', 'wind', 'foghorn']);
  });
  it('that are missing come first, untouched copies too', () => {
    expect(ids(filesFound(all, '', ['foghorn', 'pilot-dry']))).toEqual(['pilot-dry', 'foghorn', 'pad', 'wind']);
  });
  it('are found by a part of their names, whatever its case', () => {
    expect(ids(filesFound(all, ' WIN', ['foghorn']))).toEqual(['wind']);
  });
});
