import { create } from 'zustand';

export type Scheme = 'down' | 'up';

const KEY = 'wide-room-lights';
const first = (): Scheme => {
  if (typeof window === 'undefined') return 'down';
  const kept = localStorage.getItem(KEY);
  if (kept === 'up' || kept === 'down') return kept;
  return matchMedia('(prefers-color-scheme: light)').matches ? 'up' : 'down';
};

export const useScheme = create<{ scheme: Scheme }>(() => ({ scheme: first() }));

export function setScheme(scheme: Scheme): void {
  localStorage.setItem(KEY, scheme);
  document.documentElement.dataset.lights = scheme;
  useScheme.setState({ scheme });
}

export const toggleScheme = (): void => setScheme(useScheme.getState().scheme === 'up' ? 'down' : 'up');
