import type { AdmBed } from './adm';
import type { Bext } from './bext';
import type { Ixml } from './ixml';
import type { SampleFormat } from './sampleFormat';

/** A named place in a file, in frames from its start. */
export interface FileMarker {
  at: number;
  label: string;
}

/** What a sound file says about itself, whatever its kind. */
export interface AudioInfo {
  kind: 'RIFF' | 'RF64' | 'BW64' | 'AIFF' | 'AIFF-C';
  format: SampleFormat;
  bigEndian: boolean;
  channels: number;
  sampleRate: number;
  frames: number;
  /** Channel mask of WAVE_FORMAT_EXTENSIBLE; 0 when there is none. */
  mask: number;
  dataOffset: number;
  bext: Bext | null;
  ixml: Ixml | null;
  markers: FileMarker[];
  /** Channel labels of an ADM bed, where the file carries one. */
  adm: AdmBed | null;
  /** What was not as it should be, though the samples can be read. */
  notes: string[];
}

export const ascii = (b: Uint8Array, at: number, n: number): string => String.fromCharCode(...b.subarray(at, at + n));
