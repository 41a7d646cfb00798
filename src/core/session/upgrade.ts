import { NEW_SETTINGS, NEW_SHEET, NEW_TEMPO } from './create';
import type { SessionDoc, Settings } from './document';

const PLAYING_GUIDES: Partial<Settings> = { guides: 'play' };

/**
 * A session as stored by an earlier release with everything that later ones added, each at the value that
 * leaves the session as it was. A session of this release comes back as it is, the same object.
 */
export function upgradeDoc(stored: SessionDoc): SessionDoc {
  const old = stored as SessionDoc & { settings: Partial<Settings> };
  const whole =
    old.destinations !== undefined &&
    old.settings.lead !== undefined &&
    old.cues !== undefined &&
    old.tracks.every((t) => t.anchor !== undefined) &&
    old.lines.every((l) => l.sheet !== undefined);
  if (whole) return stored;
  return {
    ...old,
    destinations: old.destinations ?? {},
    tempo: old.tempo ?? structuredClone(NEW_TEMPO),
    shelf: old.shelf ?? [],
    cues: old.cues ?? [],
    markers: old.markers ?? [],
    // Guides went on playing before there was a choice.
    settings: { ...structuredClone(NEW_SETTINGS), ...(old.settings.guides ? {} : PLAYING_GUIDES), ...old.settings },
    tracks: old.tracks.map((t) => ({ ...t, anchor: t.anchor ?? 'time', guide: t.guide ?? false })),
    lines: old.lines.map((l) => ({ ...l, sheet: l.sheet ?? { ...NEW_SHEET }, record: l.record ?? 'both' })),
  };
}
