import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { toast } from 'sonner';
import { beforeEach, expect, it, vi } from 'vitest';
import { sessionWith } from '../../../tests/support/session';
import { useSession } from '@/client';
import { NamePattern } from './namePattern';

const error = vi.spyOn(toast, 'error').mockReturnValue(0);

const doc = () => useSession.getState().doc!;

beforeEach(() => {
  vi.stubGlobal('fetch', () => new Promise(() => {}));
  const start = sessionWith();
  useSession.setState({ doc: start, base: start, id: 's', pending: [] });
  error.mockClear();
  render(<NamePattern />);
});

// Braces open a key's name where they stand alone.
async function write(pattern: string): Promise<void> {
  const user = userEvent.setup();
  const field = screen.getByRole('textbox', { name: 'Name pattern' });
  await user.clear(field);
  await user.type(field, `${pattern.replaceAll('{', '{{')}{Enter}`);
}

it('takes a pattern that gives names', async () => {
  await write('{session}_{bus}_{layout}_{version}');
  expect(doc().namePattern).toBe('{session}_{bus}_{layout}_{version}');
  expect(error).not.toHaveBeenCalled();
});

it.each([
  ['{session}_{buss}', '"{buss}"'],
  ['{session}_{bus', '"{bus"'],
  ['{session}_bus}', '"}"'],
  ['{session}_{language}', '{language}'],
])('refuses %s, shows what is wrong with it and keeps the one before', async (pattern, shown) => {
  const before = doc().namePattern;
  await write(pattern);
  expect(doc().namePattern).toBe(before);
  expect(error.mock.calls[0]?.[0]).toEqual(expect.stringContaining(shown));
  expect(error.mock.calls[0]?.[0]).toEqual(expect.stringContaining(`It stays at ${before}`));
});
