import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, expect, it, vi } from 'vitest';
import { sessionWith } from '../../../tests/support/session';
import { useSession } from '@/client';
import { MixOfStems } from './mixOfStems';

const doc = () => useSession.getState().doc!;
const onClose = vi.fn();

beforeEach(() => {
  vi.stubGlobal('fetch', () => new Promise(() => {}));
  const start = sessionWith();
  useSession.setState({ doc: start, base: start, id: 's', pending: [] });
  onClose.mockClear();
  render(<MixOfStems onClose={onClose} />);
});

const pick = async (name: RegExp) => userEvent.setup().click(screen.getByRole('checkbox', { name }));
const name = () => screen.getByRole<HTMLInputElement>('textbox', { name: 'Name of the mix' }).value;

it('asks for a mix without a stem, under a name that says so', async () => {
  const [stem] = doc().buses.filter((b) => b.kind === 'stem');
  await pick(new RegExp(stem!.name));
  expect(name()).toBe(`Without ${stem!.name}`);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Ask for it' }));
  const made = doc().buses.find((b) => b.name === `Without ${stem!.name}`)!;
  expect(made).toMatchObject({ kind: 'reference', leftOut: [stem!.id], layout: '5.1' });
  expect(doc().deliverables.filter((d) => d.bus === made.id)).toHaveLength(1);
  expect(onClose).toHaveBeenCalledOnce();
});

it('is told by what is in it where that is less, and asks for nothing without a stem', async () => {
  const stems = doc().buses.filter((b) => b.kind === 'stem');
  for (const s of stems.slice(1)) await pick(new RegExp(s.name));
  expect(name()).toBe(stems[0]!.name);
  await pick(new RegExp(stems[0]!.name));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Ask for it' }).disabled).toBe(true);
});
