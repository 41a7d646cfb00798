import { act, cleanup, render } from '@testing-library/react';
import { useRef } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { drawAttribute, drawText } from './drawn';
import { useFrame } from './useFrame';

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['requestAnimationFrame', 'cancelAnimationFrame', 'performance'] });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

it('draws with each frame while it is there, and no more afterwards', () => {
  const draw = vi.fn();
  function Drawn() {
    useFrame(draw);
    return null;
  }
  const { unmount } = render(<Drawn />);
  for (let i = 0; i < 5; i++) vi.advanceTimersToNextFrame();
  expect(draw.mock.calls.length).toBeGreaterThanOrEqual(4);
  unmount();
  const drawn = draw.mock.calls.length;
  for (let i = 0; i < 5; i++) vi.advanceTimersToNextFrame();
  expect(draw.mock.calls.length).toBe(drawn);
});

it('a figure that stays as it was leaves the page alone', async () => {
  let figure = '-12.0';
  function Figure() {
    const text = useRef<HTMLSpanElement>(null);
    useFrame(() => {
      drawText(text.current, figure);
      drawAttribute(text.current, 'aria-valuenow', figure);
    });
    return <span ref={text} />;
  }
  const { container } = render(<Figure />);
  vi.advanceTimersToNextFrame();
  const changes: MutationRecord[] = [];
  const watch = new MutationObserver((seen) => changes.push(...seen));
  watch.observe(container, { subtree: true, childList: true, characterData: true, attributes: true });
  for (let i = 0; i < 5; i++) vi.advanceTimersToNextFrame();
  await act(async () => {});
  expect(changes).toHaveLength(0);
  figure = '-11.5';
  for (let i = 0; i < 3; i++) vi.advanceTimersToNextFrame();
  await act(async () => {});
  expect(container.textContent).toBe('-11.5');
  expect(changes.length).toBe(2);
  watch.disconnect();
});
