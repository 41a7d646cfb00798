import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { docNow, showPanel } from '../../../tests/support/panel';
import { sessionWith } from '../../../tests/support/session';
import { LineSheetTable } from './lineSheetTable';

const DEVICE = 'standin-eight';
const show = () =>
  showPanel(
    <LineSheetTable />,
    sessionWith(
      { type: 'addLine', device: DEVICE, channel: 0, name: 'Booth' },
      { type: 'addLine', device: DEVICE, channel: 1, name: 'Far' },
    ),
  );
const sheet = (at: number) => docNow().lines[at]!.sheet;

it('a microphone that needs a supply says so until it has one', async () => {
  const { user } = show();
  await user.click(screen.getByRole('combobox', { name: 'Microphone of Booth' }));
  await user.click(screen.getByRole('option', { name: 'condenser' }));
  expect(sheet(0)).toMatchObject({ kind: 'condenser', phantom: false });
  const supply = screen.getByRole('checkbox', { name: '48 V of Booth' });
  expect(supply.className).toContain('outline-stop');
  await user.click(supply);
  expect(sheet(0).phantom).toBe(true);
  expect(supply.className).not.toContain('outline-stop');
  expect(sheet(1)).toMatchObject({ kind: 'dynamic', phantom: false });
});

it('is gone through by Tab, written by keys, and each row keeps to its own line', async () => {
  const { user } = show();
  await user.click(screen.getByRole('textbox', { name: 'Name of line 2' }));
  await user.keyboard('{Control>}a{/Control}Window{Tab}booth, 30 cm{Tab}');
  expect(docNow().lines.map((l) => l.name)).toEqual(['Booth', 'Window']);
  expect(sheet(1).position).toBe('booth, 30 cm');
  expect(document.activeElement?.getAttribute('aria-label')).toBe('Microphone of Window');
});

it('keeps what it has where a gain is not understood, or is more than there is', async () => {
  const { user } = show();
  for (const text of ['loud', '200']) {
    await user.click(screen.getByRole('spinbutton', { name: 'Gain of Booth' }));
    await user.keyboard(`{Enter}{Control>}a{/Control}${text}{Enter}`);
    expect(sheet(0).gain).toBe(0);
  }
  expect((await screen.findAllByText(/Gain of Booth/)).length).toBeGreaterThan(0);
});

it('tells which tracks a line goes to, and gives them its name', async () => {
  const { user } = showPanel(
    <LineSheetTable />,
    sessionWith(
      { type: 'addLine', device: DEVICE, channel: 0, name: 'Booth' },
      { type: 'addTrack', id: 'p', name: 'Pilot', layout: 'mono', destination: 'dia' },
      { type: 'patch', track: 'p', channel: 0, line: `${DEVICE}/1` },
    ),
  );
  const row = screen.getByRole('textbox', { name: 'Name of line 1' }).closest('li')!;
  expect(within(row).getByText('Pilot')).toBeDefined();
  await user.click(screen.getByRole('button', { name: 'Name tracks by their lines' }));
  expect(docNow().tracks[0]!.name).toBe('Booth');
});
