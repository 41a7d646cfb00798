import type { Layout, Speaker } from '@/core/speakers';
import { admTime } from './admTime';
import { child, children, escapeXml, parseXml, textOf, type XmlNode } from './xml';

/** A channel-based programme (bed) as the Audio Definition Model describes it. */
export interface AdmBed {
  name: string;
  /** ITU-R BS.2051 label of each channel in file order; empty where the file does not say. */
  labels: string[];
  /** audioPackFormat id, for example AP_00010003 for 5.1. */
  pack: string;
}

/*
 * Common definitions of ITU-R BS.2094 (ids from memory): channels and packs that every reader knows. Beds
 * whose speakers stand elsewhere get definitions of their own, numbered from 1001.
 */
const CHANNELS: Record<string, string> = {
  'M+030': '0001',
  'M-030': '0002',
  'M+000': '0003',
  LFE1: '0004',
  'M+110': '0005',
  'M-110': '0006',
  'M+022': '0007',
  'M-022': '0008',
  'M+180': '0009',
  'M+090': '000a',
  'M-090': '000b',
  'T+000': '000c',
  'U+030': '000d',
  'U+000': '000e',
  'U-030': '000f',
  'U+110': '0010',
  'U+180': '0011',
  'U-110': '0012',
  'U+090': '0013',
  'U-090': '0014',
  'B+000': '0015',
  'B+045': '0016',
  'B-045': '0017',
  'M+060': '0018',
  'M-060': '0019',
  'M+135': '001c',
  'M-135': '001d',
  'U+135': '001e',
  'U-135': '001f',
  'U+045': '0022',
  'U-045': '0023',
};
const PACKS: Record<string, string> = { mono: '0001', stereo: '0002', '5.1': '0003', '7.1': '000f', '7.1.4': '0017' };

const LABEL_OF = new Map(Object.entries(CHANNELS).map(([label, id]) => [id, label]));
const hex = (n: number): string => n.toString(16).padStart(4, '0');

interface Definition {
  channel: string;
  own: Speaker | null;
}

function definitions(layout: Layout): { pack: string; own: boolean; channels: Definition[] } {
  const pack = PACKS[layout.id];
  const common = pack !== undefined && layout.speakers.every((s) => CHANNELS[s.itu]);
  return {
    pack: `AP_0001${common ? pack : '1001'}`,
    own: !common,
    channels: layout.speakers.map((s, i) => {
      const id = CHANNELS[s.itu];
      return id ? { channel: id, own: null } : { channel: hex(0x1001 + i), own: s };
    }),
  };
}

const CHNA_ENTRY = 40;

/** Content of a "chna" chunk (ITU-R BS.2088): track number, audioTrackUID, track and pack format per channel. */
export function encodeChna(layout: Layout): Uint8Array {
  const { pack, channels } = definitions(layout);
  const out = new Uint8Array(4 + CHNA_ENTRY * channels.length);
  const v = new DataView(out.buffer);
  const text = (at: number, s: string) => out.set(new TextEncoder().encode(s), at);
  v.setUint16(0, channels.length, true);
  v.setUint16(2, channels.length, true);
  channels.forEach((c, i) => {
    const at = 4 + CHNA_ENTRY * i;
    v.setUint16(at, i + 1, true);
    text(at + 2, `ATU_${(i + 1).toString(16).padStart(8, '0')}`);
    text(at + 14, `AT_0001${c.channel}_01`);
    text(at + 28, pack);
  });
  return out;
}

/** Content of an "axml" chunk (ITU-R BS.2076): one programme with one bed. `seconds`: its length. */
export function encodeAxml(layout: Layout, name: string, seconds: number, sampleRate: number): string {
  const { pack, own, channels } = definitions(layout);
  const time = admTime(seconds);
  const title = escapeXml(name);
  const uids = channels
    .map((c, i) => {
      const uid = `ATU_${(i + 1).toString(16).padStart(8, '0')}`;
      return `<audioTrackUID UID="${uid}" sampleRate="${sampleRate}"><audioTrackFormatIDRef>AT_0001${c.channel}_01</audioTrackFormatIDRef><audioPackFormatIDRef>${pack}</audioPackFormatIDRef></audioTrackUID>`;
    })
    .join('');
  const refs = channels
    .map((_, i) => `<audioTrackUIDRef>ATU_${(i + 1).toString(16).padStart(8, '0')}</audioTrackUIDRef>`)
    .join('');
  const ownPack = own
    ? `<audioPackFormat audioPackFormatID="${pack}" audioPackFormatName="${escapeXml(layout.name)}" typeLabel="0001" typeDefinition="DirectSpeakers">${channels
        .map((c) => `<audioChannelFormatIDRef>AC_0001${c.channel}</audioChannelFormatIDRef>`)
        .join('')}</audioPackFormat>`
    : '';
  const ownChannels = channels.map((c) => (c.own ? ownChannel(c.channel, c.own) : '')).join('');
  return (
    '<?xml version="1.0" encoding="UTF-8"?><ebuCoreMain xmlns="urn:ebu:metadata-schema:ebuCore_2014"><coreMetadata><format>' +
    '<audioFormatExtended version="ITU-R_BS.2076-2">' +
    `<audioProgramme audioProgrammeID="APR_1001" audioProgrammeName="${title}" start="00:00:00.00000" end="${time}"><audioContentIDRef>ACO_1001</audioContentIDRef></audioProgramme>` +
    `<audioContent audioContentID="ACO_1001" audioContentName="${title}"><audioObjectIDRef>AO_1001</audioObjectIDRef></audioContent>` +
    `<audioObject audioObjectID="AO_1001" audioObjectName="${title}" start="00:00:00.00000" duration="${time}"><audioPackFormatIDRef>${pack}</audioPackFormatIDRef>${refs}</audioObject>` +
    ownPack +
    ownChannels +
    uids +
    '</audioFormatExtended></format></coreMetadata></ebuCoreMain>'
  );
}

function ownChannel(id: string, s: Speaker): string {
  const label = escapeXml(s.itu);
  return (
    `<audioChannelFormat audioChannelFormatID="AC_0001${id}" audioChannelFormatName="${escapeXml(s.label)}" typeLabel="0001" typeDefinition="DirectSpeakers">` +
    `<audioBlockFormat audioBlockFormatID="AB_0001${id}_00000001"><speakerLabel>${label}</speakerLabel><position coordinate="azimuth">${s.azimuth}</position><position coordinate="elevation">${s.elevation}</position><position coordinate="distance">1</position></audioBlockFormat></audioChannelFormat>` +
    `<audioStreamFormat audioStreamFormatID="AS_0001${id}" audioStreamFormatName="PCM_${escapeXml(s.label)}" formatLabel="0001" formatDefinition="PCM"><audioChannelFormatIDRef>AC_0001${id}</audioChannelFormatIDRef><audioTrackFormatIDRef>AT_0001${id}_01</audioTrackFormatIDRef></audioStreamFormat>` +
    `<audioTrackFormat audioTrackFormatID="AT_0001${id}_01" audioTrackFormatName="PCM_${escapeXml(s.label)}" formatLabel="0001" formatDefinition="PCM"><audioStreamFormatIDRef>AS_0001${id}</audioStreamFormatIDRef></audioTrackFormat>`
  );
}

/** Reads the bed that "chna" and "axml" (may be empty) describe; null when they describe none. */
export function decodeAdm(chna: Uint8Array, axml: string, channels: number): AdmBed | null {
  if (chna.length < 4 + CHNA_ENTRY) return null;
  let format: XmlNode | undefined;
  try {
    const root = axml ? parseXml(axml) : undefined;
    const main = child(root, 'ebuCoreMain');
    format =
      child(child(child(main, 'coreMetadata'), 'format'), 'audioFormatExtended') ?? child(root, 'audioFormatExtended');
  } catch {
    format = undefined;
  }
  const v = new DataView(chna.buffer, chna.byteOffset, chna.length);
  const text = (at: number, n: number) => new TextDecoder().decode(chna.subarray(at, at + n)).replace(/\0.*$/s, '');
  const labels = Array<string>(channels).fill('');
  let pack = '';
  const entries = Math.min(v.getUint16(2, true), Math.floor((chna.length - 4) / CHNA_ENTRY));
  for (let i = 0; i < entries; i++) {
    const at = 4 + CHNA_ENTRY * i;
    const track = v.getUint16(at, true);
    if (track < 1 || track > channels) continue;
    const id = /^AT_0001([0-9a-f]{4})_/i.exec(text(at + 14, 14))?.[1]?.toLowerCase() ?? '';
    labels[track - 1] = LABEL_OF.get(id) ?? ownLabel(format, id) ?? '';
    pack ||= text(at + 28, 11);
  }
  const name = children(format, 'audioProgramme')[0]?.['@audioProgrammeName'];
  return { name: typeof name === 'string' ? name : '', labels, pack };
}

function ownLabel(format: XmlNode | undefined, id: string): string | undefined {
  const found = children(format, 'audioChannelFormat').find((c) => c['@audioChannelFormatID'] === `AC_0001${id}`);
  return textOf(child(found, 'audioBlockFormat'), 'speakerLabel');
}
