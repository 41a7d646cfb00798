import type { LinePair, LinesHeard } from '@/core/measure';

export type ToListener =
  | { kind: 'begin'; sampleRate: number; width: number; pairs: LinePair[] }
  | { kind: 'pairs'; pairs: LinePair[] }
  | { kind: 'sound'; channels: Float32Array[] };

export interface FromListener {
  heard: LinesHeard;
}

/** Listens to lines beside the page, which goes on drawing; `close` ends it. */
export interface LineAnalysis {
  run(channels: Float32Array[]): void;
  setPairs(pairs: LinePair[]): void;
  close(): void;
}

/** Begins to listen to `width` lines; `onHeard` is told a few times a second what was found so far. */
export function analyseLines(
  sampleRate: number,
  width: number,
  pairs: LinePair[],
  onHeard: (heard: LinesHeard) => void,
): LineAnalysis {
  const worker = new Worker(new URL('./workers/listener.worker.ts', import.meta.url), { type: 'module' });
  const tell = (message: ToListener, give: Transferable[] = []) => worker.postMessage(message, give);
  worker.onmessage = ({ data }: MessageEvent<FromListener>) => onHeard(data.heard);
  tell({ kind: 'begin', sampleRate, width, pairs });
  return {
    run: (channels) => {
      const own = channels.map((c) => c.slice());
      tell(
        { kind: 'sound', channels: own },
        own.map((c) => c.buffer),
      );
    },
    setPairs: (all) => tell({ kind: 'pairs', pairs: all }),
    close: () => worker.terminate(),
  };
}
