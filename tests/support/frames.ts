import { vi } from 'vitest';

/** Frames of a page for code that runs without one; both of them, as toasts take a frame back that is still due. */
export function stubFrames(): void {
  vi.stubGlobal('requestAnimationFrame', (draw: () => void) => setTimeout(draw, 0));
  vi.stubGlobal('cancelAnimationFrame', (frame: ReturnType<typeof setTimeout>) => clearTimeout(frame));
}
