import { LinesListener } from '@/core/measure';
import type { FromListener, ToListener } from '../listener';

/** What was heard is told so often (ms): figures must be read. */
const TELL_EVERY = 400;

let listener: LinesListener | null = null;
let told = 0;

self.onmessage = ({ data }: MessageEvent<ToListener>) => {
  if (data.kind === 'begin') listener = new LinesListener(data.sampleRate, data.width, data.pairs);
  else if (data.kind === 'pairs') listener?.setPairs(data.pairs);
  else {
    listener?.run(data.channels);
    const now = performance.now();
    if (!listener || now - told < TELL_EVERY) return;
    told = now;
    self.postMessage({ heard: listener.heard() } satisfies FromListener);
  }
};
