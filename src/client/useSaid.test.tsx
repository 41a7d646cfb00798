import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { useSaid, useSession } from '.';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

it('is asked again after each change of the session, and stands until the next answer', async () => {
  const answers: ((steps: number) => void)[] = [];
  const asked = vi.fn(() => new Promise((answer) => answers.push((steps) => answer(Response.json({ steps })))));
  vi.stubGlobal('fetch', asked);
  useSession.setState({ revision: 1 });
  const queries = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  );
  const { result, rerender } = renderHook(({ url }: { url: string | null }) => useSaid<{ steps: number }>(url), {
    wrapper,
    initialProps: { url: null as string | null },
  });
  expect(asked).not.toHaveBeenCalled();
  rerender({ url: '/api/sessions/a/history' });
  await act(async () => answers[0]!(1));
  await waitFor(() => expect(result.current).toEqual({ steps: 1 }));
  act(() => useSession.setState({ revision: 2 }));
  await waitFor(() => expect(asked).toHaveBeenCalledTimes(2));
  expect(result.current).toEqual({ steps: 1 });
  await act(async () => answers[1]!(2));
  await waitFor(() => expect(result.current).toEqual({ steps: 2 }));
  // Many changes leave one answer behind, not one each.
  expect(
    queries
      .getQueryCache()
      .getAll()
      .filter((q) => q.state.data),
  ).toHaveLength(1);
});
