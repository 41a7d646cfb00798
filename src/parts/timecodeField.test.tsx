import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { toast } from 'sonner';
import { beforeEach, expect, it, vi } from 'vitest';
import { sessionWith } from '../../tests/support/session';
import { useSession } from '@/client';
import { TimecodeField } from './timecodeField';

const error = vi.spyOn(toast, 'error').mockReturnValue(0);

const RATE = 48_000;
const FRAME = RATE / 25;

beforeEach(() => {
  const doc = sessionWith({ type: 'setFormat', startTimecode: '00:00:00:00' });
  useSession.setState({ doc, base: doc, id: 's' });
  error.mockClear();
});

function field(sample = RATE) {
  const onChange = vi.fn();
  render(<TimecodeField label="Cue in" sample={sample} onChange={onChange} />);
  return { onChange, input: screen.getByRole<HTMLInputElement>('textbox', { name: 'Cue in' }) };
}

async function typedIn(text: string, sample?: number) {
  const { onChange, input } = field(sample);
  const user = userEvent.setup();
  await user.click(input);
  await user.clear(input);
  await user.keyboard(text);
  return { onChange, input };
}

it.each([
  ['10', 10 * FRAME],
  ['1212', 12 * RATE + 12 * FRAME],
  ['2:12', 2 * RATE + 12 * FRAME],
  ['00:00:02:12', 2 * RATE + 12 * FRAME],
  ['00.00.02.12', 2 * RATE + 12 * FRAME],
])('reads %s from the right, the last two being frames', async (text, sample) => {
  const { onChange } = await typedIn(`${text}{Enter}`);
  expect(onChange).toHaveBeenCalledExactlyOnceWith(sample);
  expect(error).not.toHaveBeenCalled();
});

it('is written out in full at once, also where it stays the same', async () => {
  const { onChange, input } = await typedIn('100{Enter}', RATE);
  expect(onChange).toHaveBeenCalledExactlyOnceWith(RATE);
  expect(input.value).toBe('00:00:01:00');
});

it.each(['soon', '00:00:00:25', '99:00:00:00', '-1', '1:2:3:4:5'])(
  'refuses %s, says why and stays as it was',
  async (text) => {
    const { onChange, input } = await typedIn(`${text}{Enter}`);
    expect(onChange).not.toHaveBeenCalled();
    expect(error).toHaveBeenCalledOnce();
    expect(error.mock.calls[0]![0]).toEqual(expect.stringContaining('It stays at 00:00:01:00'));
    expect(input.value).toBe('00:00:01:00');
  },
);

it('changes nothing when it is left without typing, though its time has changed meanwhile', async () => {
  const onChange = vi.fn();
  const { rerender } = render(<TimecodeField label="Cue in" sample={0} onChange={onChange} />);
  const input = screen.getByRole<HTMLInputElement>('textbox', { name: 'Cue in' });
  await userEvent.setup().click(input);
  rerender(<TimecodeField label="Cue in" sample={5 * RATE} onChange={onChange} />);
  expect(input.value).toBe('00:00:05:00');
  input.blur();
  expect(onChange).not.toHaveBeenCalled();
});

it('Escape takes back what was typed, and an empty field changes nothing', async () => {
  const { onChange, input } = await typedIn('10{Escape}');
  expect(onChange).not.toHaveBeenCalled();
  expect(input.value).toBe('00:00:01:00');
  expect(document.activeElement).not.toBe(input);
  cleanup();
  expect((await typedIn('{Enter}')).onChange).not.toHaveBeenCalled();
});
