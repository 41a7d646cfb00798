// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, expect, it, vi } from 'vitest';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import { useSession, type DeviceState } from '@/client';
import { PatchTable } from './patchTable';

const device = (id: string, name: string, lines: string[]) =>
  ({ id, name, lines, sheets: [], state: 'on', slot: 0, unavailable: null }) as unknown as DeviceState;
const list = [device('eight', 'Eight lines', ['One', 'Two']), device('desk', 'Desk', ['Far'])];

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn(), message: vi.fn() }) }));
vi.mock('@/client', async (real) => ({
  ...(await real<object>()),
  useDevices: (pick: (s: { list: DeviceState[] }) => unknown) => pick({ list }),
  readLevel: () => ({ db: -Infinity, hold: -Infinity }),
}));

const inputs = () => useSession.getState().doc!.tracks.map((t) => t.inputs);
const cell = (name: string) => screen.getByRole('gridcell', { name });

beforeEach(() => {
  vi.stubGlobal('fetch', () => new Promise(() => {}));
  const doc = applied(sessionWith(monoTrack('p', 'Pilot')), {
    type: 'addTrack',
    id: 'b',
    name: 'Boat',
    layout: 'stereo',
    destination: 'efx',
  });
  useSession.setState({ doc, base: doc, id: 's', pending: [] });
  render(<PatchTable />);
});

it('shows every line of every device against every channel, and a press leads one to the other', async () => {
  const user = userEvent.setup();
  expect(screen.getAllByRole('gridcell')).toHaveLength(9);
  await user.click(cell('Two to Boat L'));
  await user.click(cell('Far to Boat R'));
  expect(inputs()).toEqual([[null], ['eight/2', 'desk/1']]);
  expect(cell('Two to Boat L').getAttribute('aria-selected')).toBe('true');
  // A channel has one line: another takes its place.
  await user.click(cell('One to Boat L'));
  expect(inputs()).toEqual([[null], ['eight/1', 'desk/1']]);
  await user.click(cell('One to Boat L'));
  expect(inputs()).toEqual([[null], [null, 'desk/1']]);
});

it('is gone through by arrow keys, and pressed by Enter and Space', async () => {
  const user = userEvent.setup();
  await user.tab();
  while (document.activeElement?.getAttribute('role') !== 'gridcell') await user.tab();
  await user.keyboard('{ArrowDown}{ArrowRight}{Enter}');
  expect(inputs()).toEqual([[null], ['eight/2', null]]);
  await user.keyboard('{ArrowDown}{ArrowRight} ');
  expect(inputs()).toEqual([[null], ['eight/2', 'desk/1']]);
  await user.keyboard('{ArrowRight}{ArrowRight}{ArrowUp}{ArrowUp}{ArrowUp}');
  expect(document.activeElement?.getAttribute('aria-label')).toBe('One to Boat R');
});
