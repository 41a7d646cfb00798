export type StandardId =
  'mono' | 'stereo' | 'lcr' | 'quad' | '5.0' | '5.1' | '7.0' | '7.1' | '5.1.2' | '5.1.4' | '7.1.4' | '9.1.6';

/** A layout of one's own: the id holds its name and its speakers (ownLayouts.ts). */
export type OwnLayoutId = `own/${string}`;

export type LayoutId = StandardId | OwnLayoutId;

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
  id: LayoutId;
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
export type StandardLayout = Layout & { id: StandardId };

function layout(id: StandardId, name: string, code: string, labels: string, mask: number): StandardLayout {
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

/** ITU-R BS.2051 form of a position, for example M+110 or U-045. */
export function ituLabel(azimuth: number, elevation: number): string {
  const layer = elevation > 75 ? 'T' : elevation > 15 ? 'U' : elevation < -15 ? 'B' : 'M';
  const degrees = String(Math.abs(Math.round(azimuth))).padStart(3, '0');
  return `${layer}${azimuth < 0 ? '-' : '+'}${degrees}`;
}
