import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { docNow, showPanel } from '../../../tests/support/panel';
import { monoTrack, sessionWith } from '../../../tests/support/session';
import { TrackRows } from './trackRows';

const show = () =>
  showPanel(<TrackRows />, sessionWith(monoTrack('a', 'Pilot'), monoTrack('b', 'Lad'), monoTrack('c', 'Boat')));
const tracks = () => docNow().tracks;
const picked = () => screen.getByRole('group', { name: 'Picked tracks' });

it('is named by writing over it; an empty name and Escape leave it', async () => {
  const { user } = show();
  const name = screen.getByRole('textbox', { name: 'Name of Pilot' });
  await user.click(name);
  await user.keyboard('{Control>}a{/Control}Skipper{Escape}');
  await user.click(name);
  await user.keyboard('{Control>}a{/Control}{Delete}{Enter}');
  expect(tracks()[0]!.name).toBe('Pilot');
  await user.click(name);
  await user.keyboard('{Control>}a{/Control}Skipper{Enter}');
  expect(tracks()[0]!.name).toBe('Skipper');
});

it('a name that another track has is taken, and told', async () => {
  const { user } = show();
  await user.click(screen.getByRole('textbox', { name: 'Name of Lad' }));
  await user.keyboard('{Control>}a{/Control}pilot{Enter}');
  expect(tracks()[1]!.name).toBe('pilot');
  expect(await screen.findByText(/Two tracks are called pilot now/)).toBeDefined();
});

it('rows are picked singly, by range and all, and set together in one step', async () => {
  const { user } = show();
  await user.click(screen.getByRole('checkbox', { name: 'Pick Pilot' }));
  await user.keyboard('{Shift>}');
  await user.click(screen.getByRole('checkbox', { name: 'Pick Boat' }));
  await user.keyboard('{/Shift}');
  expect(within(picked()).getByRole('button', { name: '3 picked: none' })).toBeDefined();
  await user.click(screen.getByRole('checkbox', { name: 'Pick Lad' }));
  await user.click(within(picked()).getByRole('combobox', { name: 'Width of the picked tracks' }));
  await user.click(screen.getByRole('option', { name: 'stereo' }));
  expect(tracks().map((t) => t.layout)).toEqual(['stereo', 'mono', 'stereo']);
  await user.click(within(picked()).getByRole('combobox', { name: 'Destination of the picked tracks' }));
  await user.click(screen.getByRole('option', { name: /→ monitor/ }));
  expect(tracks().map((t) => t.destination === 'dia')).toEqual([false, true, false]);
});

it('every width that the application knows can be given', async () => {
  const { user } = show();
  await user.click(screen.getByRole('combobox', { name: 'Width of Pilot' }));
  expect(screen.getAllByRole('option')).toHaveLength(12);
  await user.click(screen.getByRole('option', { name: '9.1.6' }));
  expect(tracks()[0]!.inputs).toHaveLength(16);
});

it('a track that is removed is the one whose button it was', async () => {
  const { user } = show();
  await user.click(screen.getByRole('button', { name: 'Remove Lad' }));
  expect(tracks().map((t) => t.name)).toEqual(['Pilot', 'Boat']);
});
