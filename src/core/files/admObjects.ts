import { admTime } from './admTime';
import { escapeXml } from './xml';

/** Where an object is, from a time on (s); it goes there from where it was before within its block. */
export interface AdmBlock {
  at: number;
  /** Degrees, positive to the left, and above ear height. */
  azimuth: number;
  elevation: number;
  /** 0 the middle, 1 on the ring. */
  distance: number;
  /** Degrees over which it is spread. */
  spread: number;
}

/** A source in a file of objects: one channel, and its blocks in order, the first at nought. */
export interface AdmObject {
  name: string;
  blocks: readonly AdmBlock[];
}

const ENTRY = 40;
/** Numbers below 1000 (hex) are those of the common definitions. */
const FIRST = 0x1001;

const hex = (n: number, digits = 4): string => n.toString(16).padStart(digits, '0');
const uidOf = (i: number): string => `ATU_${hex(i + 1, 8)}`;
const idOf = (i: number): string => `0003${hex(FIRST + i)}`;

/** Content of a "chna" chunk (ITU-R BS.2088) of so many objects, a channel each. */
export function encodeObjectsChna(count: number): Uint8Array {
  const out = new Uint8Array(4 + ENTRY * count);
  const v = new DataView(out.buffer);
  const text = (at: number, s: string) => out.set(new TextEncoder().encode(s), at);
  v.setUint16(0, count, true);
  v.setUint16(2, count, true);
  for (let i = 0; i < count; i++) {
    const at = 4 + ENTRY * i;
    v.setUint16(at, i + 1, true);
    text(at + 2, uidOf(i));
    text(at + 14, `AT_${idOf(i)}_01`);
    text(at + 28, `AP_${idOf(i)}`);
  }
  return out;
}

const figure = (n: number): string => String(Math.round(n * 100) / 100);

function channel(o: AdmObject, i: number, seconds: number): string {
  const id = idOf(i);
  const blocks = o.blocks.map((b, n) => {
    const end = o.blocks[n + 1]?.at ?? seconds;
    const position = [
      ['azimuth', b.azimuth],
      ['elevation', b.elevation],
      ['distance', b.distance],
    ] as const;
    return [
      `<audioBlockFormat audioBlockFormatID="AB_${id}_${hex(n + 1, 8)}" rtime="${admTime(b.at)}" duration="${admTime(end - b.at)}">`,
      ...position.map(([axis, value]) => `<position coordinate="${axis}">${figure(value)}</position>`),
      ...(b.spread > 0 ? [`<width>${figure(b.spread)}</width>`] : []),
      '</audioBlockFormat>',
    ].join('');
  });
  const name = escapeXml(o.name);
  return [
    `<audioPackFormat audioPackFormatID="AP_${id}" audioPackFormatName="${name}" typeLabel="0003" typeDefinition="Objects"><audioChannelFormatIDRef>AC_${id}</audioChannelFormatIDRef></audioPackFormat>`,
    `<audioChannelFormat audioChannelFormatID="AC_${id}" audioChannelFormatName="${name}" typeLabel="0003" typeDefinition="Objects">${blocks.join('')}</audioChannelFormat>`,
    `<audioStreamFormat audioStreamFormatID="AS_${id}" audioStreamFormatName="PCM_${name}" formatLabel="0001" formatDefinition="PCM"><audioChannelFormatIDRef>AC_${id}</audioChannelFormatIDRef><audioTrackFormatIDRef>AT_${id}_01</audioTrackFormatIDRef></audioStreamFormat>`,
    `<audioTrackFormat audioTrackFormatID="AT_${id}_01" audioTrackFormatName="PCM_${name}" formatLabel="0001" formatDefinition="PCM"><audioStreamFormatIDRef>AS_${id}</audioStreamFormatIDRef></audioTrackFormat>`,
  ].join('');
}

/** Content of an "axml" chunk (ITU-R BS.2076): one programme of objects. `seconds`: its length. */
export function encodeObjectsAxml(
  objects: readonly AdmObject[],
  name: string,
  seconds: number,
  sampleRate: number,
): string {
  const time = admTime(seconds);
  const title = escapeXml(name);
  const own = objects.map((o, i) => ({ o, i, object: `AO_${hex(FIRST + i)}` }));
  return [
    '<?xml version="1.0" encoding="UTF-8"?><ebuCoreMain xmlns="urn:ebu:metadata-schema:ebuCore_2014"><coreMetadata><format>',
    '<audioFormatExtended version="ITU-R_BS.2076-2">',
    `<audioProgramme audioProgrammeID="APR_1001" audioProgrammeName="${title}" start="00:00:00.00000" end="${time}"><audioContentIDRef>ACO_1001</audioContentIDRef></audioProgramme>`,
    `<audioContent audioContentID="ACO_1001" audioContentName="${title}">${own.map((x) => `<audioObjectIDRef>${x.object}</audioObjectIDRef>`).join('')}</audioContent>`,
    ...own.map(
      ({ o, i, object }) =>
        `<audioObject audioObjectID="${object}" audioObjectName="${escapeXml(o.name)}" start="00:00:00.00000" duration="${time}"><audioPackFormatIDRef>AP_${idOf(i)}</audioPackFormatIDRef><audioTrackUIDRef>${uidOf(i)}</audioTrackUIDRef></audioObject>`,
    ),
    ...own.map(({ o, i }) => channel(o, i, seconds)),
    ...own.map(
      ({ i }) =>
        `<audioTrackUID UID="${uidOf(i)}" sampleRate="${sampleRate}"><audioTrackFormatIDRef>AT_${idOf(i)}_01</audioTrackFormatIDRef><audioPackFormatIDRef>AP_${idOf(i)}</audioPackFormatIDRef></audioTrackUID>`,
    ),
    '</audioFormatExtended></format></coreMetadata></ebuCoreMain>',
  ].join('');
}
