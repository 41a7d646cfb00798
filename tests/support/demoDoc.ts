// The demonstration's session as a document, without its sounds.
import { demoClips, demoSession } from '../../demo/scenario';
import { SCRIPT } from '../../demo/script';
import type { SessionDoc } from '@/core/session';

/** Two seconds for each line: where things stand does not matter here. */
const LINE = new Float32Array(96_000);

export function demoDoc(): SessionDoc {
  const lines = new Map(SCRIPT.map((_, i) => [i, LINE]));
  return demoSession(
    demoClips(lines).map((clip, i) => ({ ...clip, media: `demo-${i}`, frames: LINE.length, channels: 1 })),
    true,
  );
}

/** As long as a name may be, without a place to break it. */
const LONG = 'Wwwwwwwwww'.repeat(4);

/** The same with names of forty letters everywhere, each its own. */
export function longNames(doc: SessionDoc): SessionDoc {
  const named = <T extends { name: string }>(all: T[]): T[] =>
    all.map((one, i) => ({ ...one, name: `${LONG.slice(0, 38)}${String(i).padStart(2, '0')}` }));
  return {
    ...doc,
    name: LONG,
    tracks: named(doc.tracks),
    buses: named(doc.buses),
    lines: named(doc.lines),
    markers: named(doc.markers),
    cues: doc.cues.map((c) => ({ ...c, character: LONG, text: LONG.repeat(8), note: LONG })),
  };
}
