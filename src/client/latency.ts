import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** Measured delays from sounding to arriving, in samples, by device, rate and buffer: kept in this browser. */
export const useLatency = create<{ measured: Record<string, number> }>()(
  persist(() => ({ measured: {} }), { name: 'wide-room-delays', skipHydration: true }),
);
if (typeof window !== 'undefined') void useLatency.persist.rehydrate();

export const latencyKey = (device: string, rate: number, buffer: string): string => `${device}/${rate}/${buffer}`;

/** Samples by which a device's sound comes late; 0 until it has been measured. */
export const latencyOf = (device: string, rate: number, buffer: string): number =>
  useLatency.getState().measured[latencyKey(device, rate, buffer)] ?? 0;

export function setLatency(key: string, samples: number | null): void {
  useLatency.setState(({ measured: { [key]: _old, ...rest } }) => ({
    measured: samples === null ? rest : { ...rest, [key]: samples },
  }));
}
