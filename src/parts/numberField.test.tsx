import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Toaster } from 'sonner';
import { expect, it, vi } from 'vitest';
import { NumberField } from './numberField';

function field(part: Partial<Parameters<typeof NumberField>[0]> = {}) {
  const onChange = vi.fn();
  render(
    <>
      <NumberField label="Level of Pilot" value={-3} unit="dB" min={-100} max={12} onChange={onChange} {...part} />
      <Toaster />
    </>,
  );
  return { onChange, at: () => screen.getByLabelText('Level of Pilot') };
}

const type = async (at: HTMLElement, text: string) => {
  const user = userEvent.setup();
  at.focus();
  await user.keyboard('{Enter}');
  const input = screen.getByLabelText('Level of Pilot');
  await user.clear(input);
  await user.type(input, `${text}{Enter}`);
};

it('takes a figure, with its unit or without', async () => {
  const { onChange, at } = field();
  await type(at(), '-6 dB');
  expect(onChange).toHaveBeenLastCalledWith(-6);
  await type(at(), '−4,5');
  expect(onChange).toHaveBeenLastCalledWith(-4.5);
  await type(at(), '-inf');
  expect(onChange).toHaveBeenLastCalledWith(-100);
});

it.each([
  ['loud', /"loud" is no figure for Level of Pilot\. It stays at -3\.0 dB/],
  ['6 feet', /"6 feet" is no figure/],
  ['200', /goes from -100 to 12 dB; 200 is beyond it\. It stays at -3\.0 dB/],
])('says why it does not take "%s", and keeps what it had', async (text, why) => {
  const { onChange, at } = field();
  await type(at(), text);
  expect(onChange).not.toHaveBeenCalled();
  expect(await screen.findByText(why)).toBeDefined();
  expect(at().getAttribute('aria-valuenow')).toBe('-3');
});

it('Escape leaves it as it was, and nothing is said', async () => {
  const { onChange, at } = field();
  const user = userEvent.setup();
  at().focus();
  await user.keyboard('7{Escape}');
  expect(onChange).not.toHaveBeenCalled();
  expect(at().getAttribute('aria-valuenow')).toBe('-3');
});

it('goes by steps with the arrow keys, by ten with Shift, and back with Home', async () => {
  const { onChange, at } = field({ reset: 0, step: 0.5 });
  const user = userEvent.setup();
  at().focus();
  await user.keyboard('{ArrowUp}');
  expect(onChange).toHaveBeenLastCalledWith(-2.5);
  await user.keyboard('{Shift>}{ArrowDown}{/Shift}');
  expect(onChange).toHaveBeenLastCalledWith(-8);
  await user.keyboard('{Home}');
  expect(onChange).toHaveBeenLastCalledWith(0);
});
