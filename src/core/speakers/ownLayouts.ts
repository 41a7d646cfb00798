import { ituLabel, LAYOUTS, type Layout, type OwnLayoutId, type Speaker } from './layouts';

/** Where a loudspeaker of a layout of one's own stands, and what it is called; an LFE is called LFE, LFE1 or LFE2. */
export interface SpeakerSpot {
  label: string;
  /** Degrees, positive to the left, -180 to 180. */
  azimuth: number;
  /** Degrees, -90 to 90. */
  elevation: number;
}

/** A browser's audio node, and a file of most programs, holds no more. */
export const MOST_SPEAKERS = 32;

export const SPEAKER_LABEL = /^[A-Za-z][A-Za-z0-9]{0,7}$/;
const NAME = /^[\p{L}\p{N}][\p{L}\p{N} ._-]{0,29}$/u;
const PREFIX = 'own/';

/**
 * A layout of one's own; its id holds all of it, so that it means the same in every session, print and archive. Throws
 * RangeError naming the speaker when a label comes twice or cannot be one, an angle is out of range, or two speakers stand
 * in the same place.
 */
export function ownLayout(name: string, spots: readonly SpeakerSpot[]): Layout {
  if (!NAME.test(name))
    throw new RangeError(`"${name}" cannot name a layout: 1 to 30 letters, digits, spaces, dots and dashes`);
  if (spots.length < 1 || spots.length > MOST_SPEAKERS)
    throw new RangeError(`a layout has 1 to ${MOST_SPEAKERS} speakers; ${spots.length} were given`);
  const speakers = spots.map(speakerAt);
  speakers.forEach((s, i) => {
    const before = speakers.slice(0, i);
    if (before.some((o) => o.label === s.label)) throw new RangeError(`two speakers are called ${s.label}`);
    const there = before.find((o) => !o.lfe && !s.lfe && o.azimuth === s.azimuth && o.elevation === s.elevation);
    if (there) throw new RangeError(`${there.label} and ${s.label} stand in the same place`);
  });
  if (speakers.every((s) => s.lfe)) throw new RangeError('a layout needs a speaker beside the LFE');
  const known = LAYOUTS.find(
    (l) => l.speakers.length === speakers.length && l.speakers.every((o, i) => o.label === speakers[i]!.label),
  );
  const id: OwnLayoutId = `${PREFIX}${name}/${speakers.map((s) => `${s.label},${s.azimuth},${s.elevation}`).join(';')}`;
  return { id, name, code: codeOf(name), speakers, mask: known?.mask ?? 0 };
}

/** Letters and digits of its name, for file names. */
const codeOf = (name: string): string =>
  name
    .replace(/[^A-Za-z0-9]/g, '')
    .toUpperCase()
    .slice(0, 8) || 'OWN';

function speakerAt({ label, azimuth, elevation }: SpeakerSpot): Speaker {
  if (!SPEAKER_LABEL.test(label))
    throw new RangeError(`"${label}" cannot name a speaker: a letter, then up to 7 letters and digits`);
  const within = (what: string, value: number, most: number) => {
    if (!(Math.abs(value) <= most))
      throw new RangeError(`${label}: ${what} goes from -${most} to ${most}, not ${value}`);
  };
  within('azimuth', azimuth, 180);
  within('elevation', elevation, 90);
  const lfe = /^LFE\d?$/.test(label);
  const itu = lfe ? (label === 'LFE2' ? 'LFE2' : 'LFE1') : ituLabel(azimuth, elevation);
  return { label, itu, azimuth, elevation, lfe };
}

const known = new Map<string, Layout | null>();

/** The layout that an id of one's own holds; null where it holds none. */
export function ownLayoutOf(id: string): Layout | null {
  const before = known.get(id);
  if (before !== undefined) return before;
  const made = read(id);
  known.set(id, made);
  return made;
}

function read(id: string): Layout | null {
  const [, name, list] = /^own\/([^/]*)\/([^/]*)$/.exec(id) ?? [];
  if (name === undefined || list === undefined) return null;
  const spots = list.split(';').map((part) => {
    const [label = '', azimuth = '', elevation = ''] = part.split(',');
    return { label, azimuth: Number(azimuth), elevation: Number(elevation) };
  });
  try {
    const made = ownLayout(name, spots);
    // One form only: what is written otherwise is another id for the same.
    return made.id === id ? made : null;
  } catch {
    return null;
  }
}

export const isOwn = (id: string): id is OwnLayoutId => id.startsWith(PREFIX);
