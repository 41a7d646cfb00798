import { toast } from 'sonner';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { applied, monoTrack, sessionWith, take } from '../../tests/support/session';
import type { EditJson } from '@/core/session';
import { tellRecovered } from './recovered';
import { useSession } from './session';

const success = vi.spyOn(toast, 'success').mockReturnValue(0);

const recovered = (id: string, frames: number) =>
  ({ ...take(id, 'a', 0, frames), recovered: true }) as unknown as EditJson;
let stop = () => {};

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  });
  success.mockClear();
  useSession.setState({ doc: null });
});
afterEach(() => {
  stop();
  vi.unstubAllGlobals();
});

it('says once of each take that was cut off: which, and how long it is', () => {
  stop = tellRecovered();
  const doc = sessionWith(monoTrack('a', 'Pilot'), take('t1', 'a', 0, 48_000), recovered('t2', 96_000));
  useSession.setState({ doc });
  expect(success).toHaveBeenCalledTimes(1);
  expect(success.mock.calls[0]![0]).toMatch(/Recovered: take 2 of Pilot, 0:02/);
  useSession.setState({ doc: applied(doc, { type: 'setTake', track: 'a', take: 't2', circled: true }) });
  expect(success).toHaveBeenCalledTimes(1);
  // The page of the next day knows what was said.
  stop();
  stop = tellRecovered();
  expect(success).toHaveBeenCalledTimes(1);
  useSession.setState({ doc: applied(doc, recovered('t3', 48_000)) });
  expect(success).toHaveBeenCalledTimes(2);
});

it('goes on without a store of the browser', () => {
  vi.stubGlobal('localStorage', undefined);
  stop = tellRecovered();
  useSession.setState({ doc: sessionWith(monoTrack('a'), recovered('t9', 48_000)) });
  expect(success).toHaveBeenCalledTimes(1);
});
