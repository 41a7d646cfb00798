import { screen } from '@testing-library/react';
import { beforeEach, expect, it } from 'vitest';
import { docNow, showPanel } from '../../../tests/support/panel';
import { monoTrack, sessionWith, take } from '../../../tests/support/session';
import { useFloor } from './floorState';
import { TakeNote } from './takeNote';

const note = () => docNow().tracks[0]!.takes[0]!.note;
const field = () => screen.getByRole<HTMLInputElement>('textbox', { name: 'Note' });

beforeEach(() => {
  useFloor.setState({ noting: { track: 'p', take: 't1' } });
});
const show = () => showPanel(<TakeNote />, sessionWith(monoTrack('p', 'Pilot'), take('t1', 'p', 0, 48_000)));

it('is written at once and kept by Enter', async () => {
  const { user } = show();
  expect(document.activeElement).toBe(field());
  await user.keyboard('warmer, door creaks at the end{Enter}');
  expect(note()).toBe('warmer, door creaks at the end');
  expect(screen.queryByRole('dialog')).toBeNull();
});

it('is left as it was by Escape', async () => {
  const { user } = show();
  await user.keyboard('no{Escape}');
  expect(note() ?? '').toBe('');
  expect(useFloor.getState().noting).toBeNull();
});

it('takes five hundred letters, and no more than it shows', async () => {
  const { user } = show();
  await user.click(field());
  await user.paste('n'.repeat(700));
  expect(field().value.length).toBe(500);
  await user.keyboard('{Enter}');
  expect(note()).toBe('n'.repeat(500));
});

it('asks for nothing when the take is gone', () => {
  useFloor.setState({ noting: { track: 'p', take: 'gone' } });
  show();
  expect(screen.queryByRole('dialog')).toBeNull();
});
