// @vitest-environment jsdom
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, expect, it, vi } from 'vitest';
import { sessionWith } from '../../../../tests/support/session';
import { useSession } from '@/client';
import { ImportScript } from './importScript';

vi.mock('@/client', async (real) => ({ ...(await real<object>()), position: () => 96_000 }));

const doc = () => useSession.getState().doc!;
const onClose = vi.fn();

beforeEach(() => {
  vi.stubGlobal('fetch', () => new Promise(() => {}));
  const start = sessionWith();
  useSession.setState({ doc: start, base: start, id: 's', pending: [] });
  onClose.mockClear();
  render(<ImportScript open onClose={onClose} />);
});

const paste = (text: string) =>
  fireEvent.change(screen.getByRole('textbox', { name: 'Script' }), { target: { value: text } });
const preview = () =>
  within(screen.getByRole('list', { name: 'What would come' }))
    .getAllByRole('listitem')
    .map((li) => li.textContent);
const give = (name: string, bytes: BlobPart) =>
  userEvent.setup().upload(screen.getByLabelText('File of a script'), new File([bytes], name));

it('shows what would come, and adds it', async () => {
  paste('number,in,out,character,text\n12a,10:00:23:00,10:00:26:10,Pilot,Mind the gauge.\n');
  expect(preview()).toEqual(['12a10:00:23:00PilotMind the gauge.']);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Add 1 cue' }));
  expect(doc().cues).toMatchObject([{ number: '12a', start: 23 * 48_000, character: 'Pilot' }]);
  expect(onClose).toHaveBeenCalledOnce();
});

it('asks which column holds what, and whether the first line is a heading', async () => {
  paste('10:00:01:00,10:00:02:00,Mind the gauge please.,Pilot\n10:00:03:00,10:00:04:00,Aye aye to that.,Lad\n');
  expect(preview()[0]).toContain('PilotMind the gauge please.');
  const user = userEvent.setup();
  await user.click(screen.getByRole('combobox', { name: 'Column of out' }));
  await user.click(screen.getByRole('option', { name: /no column/ }));
  await user.click(screen.getByRole('combobox', { name: 'Column of in' }));
  await user.click(screen.getByRole('option', { name: /column 2/ }));
  expect(preview()[0]).toContain('10:00:02:00');
  await user.click(screen.getByRole('checkbox', { name: /headings/ }));
  expect(preview()).toHaveLength(1);
  await user.click(screen.getByRole('combobox', { name: /Column of in/ }));
  await user.click(screen.getByRole('option', { name: /no column/ }));
  expect(screen.getByRole('alert').textContent).toContain('time at which a line begins');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add' }).disabled).toBe(true);
});

it('counts times from the start where they would lie before it, or as it is told', async () => {
  paste('in,text\n00:00:01:00,Aye.\n');
  expect(preview()).toEqual(['10:00:01:00Aye.']);
  await userEvent.setup().click(screen.getByRole('radio', { name: 'timecode of the session' }));
  expect(screen.getByRole('alert').textContent).toContain('before 10:00:00:00');
});

it('reads a file in the letters that it is written in, or in others when it is told', async () => {
  const list = 'in,text\n10:00:01:00,Gr';
  await give('gauge.csv', Uint8Array.from([...list].map((c) => c.charCodeAt(0)).concat([0xfc, 0xdf, 0x65])));
  expect(await screen.findByText('Grüße')).toBeDefined();
  const user = userEvent.setup();
  await user.click(screen.getByRole('combobox', { name: 'Letters of the file' }));
  await user.click(screen.getByRole('option', { name: /Cyrillic/ }));
  expect(await screen.findByText('GrьЯe')).toBeDefined();
});

it('refuses what is no script, and says what it is', async () => {
  await give('script.txt', 'PK\x03\x04 and so on');
  expect((await screen.findByRole('alert')).textContent).toMatch(/word processor.*plain text/);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add' }).disabled).toBe(true);
  // The next thing that is given is looked at afresh.
  paste('PILOT: Mind the gauge.');
  expect(screen.queryByRole('alert')).toBeNull();
  expect(preview()).toEqual(['10:00:02:00PILOTMind the gauge.']);
});

it('tells numbers that stand twice', () => {
  paste('number,in,text\n1,10:00:01:00,a\n1,10:00:02:00,b\n');
  expect(screen.getByRole('status').textContent).toContain('Number 1 stands at more than one cue');
});
