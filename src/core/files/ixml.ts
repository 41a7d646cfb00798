/** The fields of the open iXML specification that we write. */
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

const escape = (text: string): string =>
  text.replace(/[<>&"']/g, (c) => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;', '"': '&quot;', "'": '&apos;' })[c]!);

export function encodeIxml(x: Ixml): string {
  const tag = (name: string, value: string | number | undefined) =>
    value === undefined ? '' : `<${name}>${escape(String(value))}</${name}>`;
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
