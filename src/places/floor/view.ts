import { create } from 'zustand';
import { keepOnDesk } from '@/client';

interface View {
  /** Samples per pixel. */
  zoom: number;
  /** First sample in view. */
  from: number;
  width: number;
}

/** Which part of the time is seen; kept while one looks at other places. */
export const useView = create<View>(() => ({ zoom: 0, from: 0, width: 800 }));

const CLOSEST = 4;

const isNumber = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);

keepOnDesk('view', () => ({
  save() {
    const { zoom, from } = useView.getState();
    return { zoom, from };
  },
  restore(kept) {
    const { zoom, from } = (kept ?? {}) as Record<string, unknown>;
    // Zoom 0: all of the session is shown.
    const known = isNumber(zoom) && isNumber(from) && zoom >= CLOSEST && from >= 0;
    useView.setState(known ? { zoom, from } : { zoom: 0, from: 0 });
  },
  subscribe: (changed) => useView.subscribe(changed),
}));

export function zoomBy(factor: number, around?: number): void {
  const { zoom, from, width } = useView.getState();
  const centre = around ?? from + (width / 2) * zoom;
  const next = Math.min(48000 * 30, Math.max(CLOSEST, zoom * factor));
  useView.setState({ zoom: next, from: Math.max(0, centre - ((centre - from) / zoom) * next) });
}

export const scrollBy = (pixels: number): void =>
  useView.setState((v) => ({ from: Math.max(0, v.from + pixels * v.zoom) }));

/** Comes into view where it is not: a place that one goes to is seen. */
export function show(sample: number): void {
  const { zoom, from, width } = useView.getState();
  if (zoom === 0 || (sample >= from && sample <= from + width * zoom)) return;
  useView.setState({ from: Math.max(0, sample - (width / 4) * zoom) });
}

/** Shows all of [from, to). */
export const fit = (from: number, to: number): void =>
  useView.setState((v) => ({ from, zoom: Math.max(CLOSEST, (to - from) / v.width) }));
