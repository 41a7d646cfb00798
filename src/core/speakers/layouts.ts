export type LayoutId =
  'mono' | 'stereo' | 'lcr' | 'quad' | '5.0' | '5.1' | '7.0' | '7.1' | '5.1.2' | '5.1.4' | '7.1.4' | '9.1.6';

export interface Speaker {
  /** The trade's short label. */
  label: string;
  /** Label of ITU-R BS.2051. */
  itu: string;
  /** Degrees, positive to the left of the listener. */
  azimuth: number;
  elevation: number;
  lfe: boolean;
}

export interface Layout {
  /** A LayoutId, or the name of a layout of one's own. */
  id: string;
  name: string;
  /** Short form for file names. */
  code: string;
  /** In the order of the WAV channel mask. */
  speakers: readonly Speaker[];
  /** WAVE_FORMAT_EXTENSIBLE channel mask; 0 where the mask has no bits for the layout. */
  mask: number;
}

// Positions of ITU-R BS.775 and BS.2051 (from memory); surrounds of 5.1 at 110 degrees.
const SPEAKERS: Record<string, Speaker> = Object.fromEntries(
  (
    [
      ['M', 'M+000', 0, 0],
      ['L', 'M+030', 30, 0],
      ['R', 'M-030', -30, 0],
      ['C', 'M+000', 0, 0],
      ['LFE', 'LFE1', 0, -30],
      ['Ls', 'M+110', 110, 0],
      ['Rs', 'M-110', -110, 0],
      ['Lss', 'M+090', 90, 0],
      ['Rss', 'M-090', -90, 0],
      ['Lrs', 'M+135', 135, 0],
      ['Rrs', 'M-135', -135, 0],
      ['Lw', 'M+060', 60, 0],
      ['Rw', 'M-060', -60, 0],
      ['Ltf', 'U+045', 45, 45],
      ['Rtf', 'U-045', -45, 45],
      ['Ltm', 'U+090', 90, 45],
      ['Rtm', 'U-090', -90, 45],
      ['Ltr', 'U+135', 135, 45],
      ['Rtr', 'U-135', -135, 45],
    ] as const
  ).map(([label, itu, azimuth, elevation]) => [label, { label, itu, azimuth, elevation, lfe: label === 'LFE' }]),
);

/** A layout of the list. */
export type StandardLayout = Layout & { id: LayoutId };

function layout(id: LayoutId, name: string, code: string, labels: string, mask: number): StandardLayout {
  return { id, name, code, speakers: labels.split(' ').map((l) => SPEAKERS[l]!), mask };
}

const QUAD_REAR = { Ls: 135, Rs: -135 } as const;

export const LAYOUTS: readonly StandardLayout[] = [
  layout('mono', 'mono', '10', 'M', 0x4),
  layout('stereo', 'stereo', '20', 'L R', 0x3),
  layout('lcr', 'LCR', '30', 'L R C', 0x7),
  {
    id: 'quad',
    name: 'quad',
    code: '40',
    mask: 0x33,
    speakers: [
      { ...SPEAKERS.L!, itu: 'M+045', azimuth: 45 },
      { ...SPEAKERS.R!, itu: 'M-045', azimuth: -45 },
      { ...SPEAKERS.Ls!, itu: 'M+135', azimuth: QUAD_REAR.Ls },
      { ...SPEAKERS.Rs!, itu: 'M-135', azimuth: QUAD_REAR.Rs },
    ],
  },
  layout('5.0', '5.0', '50', 'L R C Ls Rs', 0x607),
  layout('5.1', '5.1', '51', 'L R C LFE Ls Rs', 0x60f),
  layout('7.0', '7.0', '70', 'L R C Lrs Rrs Lss Rss', 0x637),
  layout('7.1', '7.1', '71', 'L R C LFE Lrs Rrs Lss Rss', 0x63f),
  layout('5.1.2', '5.1.2', '512', 'L R C LFE Ls Rs Ltm Rtm', 0),
  layout('5.1.4', '5.1.4', '514', 'L R C LFE Ls Rs Ltf Rtf Ltr Rtr', 0x2d60f),
  layout('7.1.4', '7.1.4', '714', 'L R C LFE Lrs Rrs Lss Rss Ltf Rtf Ltr Rtr', 0x2d63f),
  layout('9.1.6', '9.1.6', '916', 'L R C LFE Lrs Rrs Lss Rss Lw Rw Ltf Rtf Ltm Rtm Ltr Rtr', 0),
];

/** Where each speaker stands: labels of one's own may be used, an LFE is called so. */
export interface SpeakerSpot {
  label: string;
  azimuth: number;
  elevation: number;
}

const MOST_SPEAKERS = 64;

/** ITU-R BS.2051 form of a position, for example M+110 or U-045. */
export function ituLabel(azimuth: number, elevation: number): string {
  const layer = elevation > 75 ? 'T' : elevation > 15 ? 'U' : elevation < -15 ? 'B' : 'M';
  const degrees = String(Math.abs(Math.round(azimuth))).padStart(3, '0');
  return `${layer}${azimuth < 0 ? '-' : '+'}${degrees}`;
}

/**
 * A layout of one's own. Throws RangeError naming the speaker when a label comes twice or is empty, an angle
 * is out of range, or two speakers stand in the same place.
 */
export function customLayout(name: string, spots: readonly SpeakerSpot[]): Layout {
  if (spots.length < 1 || spots.length > MOST_SPEAKERS)
    throw new RangeError(`a layout has 1 to ${MOST_SPEAKERS} speakers; ${spots.length} were given`);
  const speakers = spots.map(({ label, azimuth, elevation }): Speaker => {
    if (!label.trim()) throw new RangeError('each speaker needs a label');
    if (!(Math.abs(azimuth) <= 180)) throw new RangeError(`${label}: azimuth goes from -180 to 180, not ${azimuth}`);
    if (!(Math.abs(elevation) <= 90)) throw new RangeError(`${label}: elevation goes from -90 to 90, not ${elevation}`);
    const lfe = /^LFE\d?$/.test(label);
    return {
      label,
      itu: lfe ? (label === 'LFE2' ? 'LFE2' : 'LFE1') : ituLabel(azimuth, elevation),
      azimuth,
      elevation,
      lfe,
    };
  });
  speakers.forEach((s, i) => {
    const other = speakers.find(
      (o, j) =>
        j < i && (o.label === s.label || (!o.lfe && !s.lfe && o.azimuth === s.azimuth && o.elevation === s.elevation)),
    );
    if (other?.label === s.label) throw new RangeError(`two speakers are called ${s.label}`);
    if (other) throw new RangeError(`${other.label} and ${s.label} stand in the same place`);
  });
  const known = LAYOUTS.find(
    (l) => l.speakers.length === speakers.length && l.speakers.every((o, i) => o.label === speakers[i]!.label),
  );
  return { id: name, name, code: String(speakers.length), speakers, mask: known?.mask ?? 0 };
}

/** Throws RangeError for an unknown id. */
export function layoutOf(id: LayoutId): StandardLayout {
  const found = LAYOUTS.find((l) => l.id === id);
  if (!found) throw new RangeError(`unknown speaker layout "${id}"`);
  return found;
}

export const widthOf = (id: LayoutId): number => layoutOf(id).speakers.length;
