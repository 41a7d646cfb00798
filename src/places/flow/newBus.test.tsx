import { screen } from '@testing-library/react';
import { beforeEach, expect, it } from 'vitest';
import { docNow, showPanel } from '../../../tests/support/panel';
import { monoTrack, sessionWith } from '../../../tests/support/session';
import type { BusKind } from '@/core/paths';
import { NewBus } from './newBus';
import { setFlow, useFlow } from './flowState';

const show = (kind: BusKind = 'stem') => {
  setFlow({ wanted: { tracks: ['p'], buses: [], kind } });
  return showPanel(<NewBus />, sessionWith(monoTrack('p', 'Pilot')));
};
const made = () => docNow().buses.find((b) => b.name === 'Bells');

beforeEach(() => setFlow({ wanted: null }));

it('a stem is made by its name and Enter: it feeds the reference, its source goes there, and it gets a file', async () => {
  const { user } = show();
  await user.type(screen.getByRole('textbox', { name: 'Name of the new bus' }), 'Bells{Enter}');
  expect(made()).toMatchObject({ kind: 'stem', layout: '5.1', destination: 'ref' });
  expect(docNow().tracks[0]!.destination).toBe(made()!.id);
  expect(docNow().deliverables.map((d) => d.bus)).toContain(made()!.id);
  expect(useFlow.getState().wanted).toBeNull();
});

it('a return gets a send and leaves the way of its source as it is', async () => {
  const { user } = show('return');
  expect(screen.getByText(/Pilot is sent to it at -12 dB\./)).toBeDefined();
  await user.type(screen.getByRole('textbox', { name: 'Name of the new bus' }), 'Bells{Enter}');
  expect(docNow().tracks[0]!.destination).toBe('dia');
  expect(docNow().tracks[0]!.sends).toMatchObject([{ to: made()!.id, level: -12 }]);
});

it('a name that is taken is told, and the dialog stays with what was written', async () => {
  const { user } = show();
  const name = screen.getByRole<HTMLInputElement>('textbox', { name: 'Name of the new bus' });
  await user.type(name, 'dialogue{Enter}');
  expect(await screen.findByText(/There is a bus "dialogue" already/)).toBeDefined();
  expect(name.value).toBe('dialogue');
  expect(useFlow.getState().wanted).not.toBeNull();
});

it('nothing is made without a name, nor by Escape', async () => {
  const { user } = show();
  const before = docNow();
  await user.type(screen.getByRole('textbox', { name: 'Name of the new bus' }), '   {Enter}');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Make' }).disabled).toBe(true);
  await user.keyboard('{Escape}');
  expect(docNow()).toBe(before);
  expect(useFlow.getState().wanted).toBeNull();
});

it('the layout that is proposed follows the kind, and can be another', async () => {
  const { user } = show('return');
  await user.click(screen.getByRole('combobox', { name: 'Layout of the bus' }));
  await user.click(screen.getByRole('option', { name: '7.1.4' }));
  await user.type(screen.getByRole('textbox', { name: 'Name of the new bus' }), 'Bells{Enter}');
  expect(made()!.layout).toBe('7.1.4');
});
