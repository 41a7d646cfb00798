import { child, children, escapeXml, parseXml, textOf } from './xml';

/** The fields of the open iXML specification that we write and read. */
export interface Ixml {
  project: string;
  scene?: string;
  take?: string;
  note?: string;
  circled?: boolean;
  /** Frame rate as a fraction, for example "25/1". */
  timecodeRate: string;
  drop: boolean;
  sampleRate: number;
  bits: number;
  timeReference: number;
  /** Channel names, in file order. */
  tracks: readonly string[];
}

export function encodeIxml(x: Ixml): string {
  const tag = (name: string, value: string | number | undefined) =>
    value === undefined ? '' : `<${name}>${escapeXml(String(value))}</${name}>`;
  const tracks = x.tracks
    .map(
      (name, i) => `<TRACK>${tag('CHANNEL_INDEX', i + 1)}${tag('INTERLEAVE_INDEX', i + 1)}${tag('NAME', name)}</TRACK>`,
    )
    .join('');
  return (
    '<?xml version="1.0" encoding="UTF-8"?><BWFXML><IXML_VERSION>1.61</IXML_VERSION>' +
    tag('PROJECT', x.project) +
    tag('SCENE', x.scene) +
    tag('TAKE', x.take) +
    tag('CIRCLED', x.circled === undefined ? undefined : x.circled ? 'TRUE' : 'FALSE') +
    tag('NOTE', x.note) +
    '<SPEED>' +
    tag('TIMECODE_RATE', x.timecodeRate) +
    tag('TIMECODE_FLAG', x.drop ? 'DF' : 'NDF') +
    tag('FILE_SAMPLE_RATE', x.sampleRate) +
    tag('AUDIO_BIT_DEPTH', x.bits) +
    tag('DIGITIZER_SAMPLE_RATE', x.sampleRate) +
    tag('TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI', Math.floor(x.timeReference / 2 ** 32)) +
    tag('TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO', x.timeReference % 2 ** 32) +
    tag('TIMESTAMP_SAMPLE_RATE', x.sampleRate) +
    '</SPEED>' +
    `<TRACK_LIST>${tag('TRACK_COUNT', x.tracks.length)}${tracks}</TRACK_LIST></BWFXML>`
  );
}

/** Reads what we know of an iXML document; null when it is none or cannot be read. */
export function decodeIxml(text: string): Ixml | null {
  let root;
  try {
    root = child(parseXml(text.replace(/\0+$/, '')), 'BWFXML');
  } catch {
    return null;
  }
  if (!root) return null;
  const speed = child(root, 'SPEED');
  const number = (name: string) => Number(textOf(speed, name) ?? 0) || 0;
  const optional = (name: string) => textOf(root, name);
  const circled = optional('CIRCLED');
  const tracks = children(child(root, 'TRACK_LIST'), 'TRACK')
    .map((t) => ({ at: Number(textOf(t, 'INTERLEAVE_INDEX') ?? 0), name: textOf(t, 'NAME') ?? '' }))
    .sort((a, b) => a.at - b.at)
    .map((t) => t.name);
  return {
    project: optional('PROJECT') ?? '',
    ...(optional('SCENE') === undefined ? {} : { scene: optional('SCENE')! }),
    ...(optional('TAKE') === undefined ? {} : { take: optional('TAKE')! }),
    ...(optional('NOTE') === undefined ? {} : { note: optional('NOTE')! }),
    ...(circled === undefined ? {} : { circled: circled.toUpperCase() === 'TRUE' }),
    timecodeRate: textOf(speed, 'TIMECODE_RATE') ?? '',
    drop: textOf(speed, 'TIMECODE_FLAG') === 'DF',
    sampleRate: number('FILE_SAMPLE_RATE'),
    bits: number('AUDIO_BIT_DEPTH'),
    timeReference:
      number('TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI') * 2 ** 32 + number('TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO'),
    tracks,
  };
}
