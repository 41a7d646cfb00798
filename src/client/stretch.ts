import { create } from 'zustand';

/** Stretch of time that is chosen on the timeline, in samples; recorded, looped and filled by. */
export const useStretch = create<{ stretch: { start: number; end: number } | null }>(() => ({ stretch: null }));

export const setStretch = (stretch: { start: number; end: number } | null): void =>
  useStretch.setState({
    stretch: stretch && stretch.end > stretch.start ? { start: Math.max(0, stretch.start), end: stretch.end } : null,
  });
