/** Broadcast extension, EBU Tech 3285 (version 2). */
export interface Bext {
  description: string;
  originator: string;
  originatorReference: string;
  /** "yyyy-mm-dd". */
  date: string;
  /** "hh:mm:ss". */
  time: string;
  /** Samples since midnight of the first sample. */
  timeReference: number;
  codingHistory: string;
  /** LUFS, LU and dBTP; undefined leaves the field unset. */
  loudness?: { integrated: number; range: number; maxTruePeak: number; maxMomentary: number; maxShortTerm: number };
}

const FIXED_BYTES = 602;
const UNSET = 0x7fff;

function putText(bytes: Uint8Array, at: number, text: string, most: number): void {
  for (let i = 0; i < Math.min(text.length, most); i++) {
    const c = text.charCodeAt(i);
    bytes[at + i] = c < 128 ? c : 0x3f;
  }
}

function getText(bytes: Uint8Array, at: number, most: number): string {
  let end = at;
  while (end < at + most && end < bytes.length && bytes[end] !== 0) end++;
  return String.fromCharCode(...bytes.subarray(at, end));
}

/** The chunk's content. Text beyond its field is cut; characters outside ASCII become "?". */
export function encodeBext(b: Bext): Uint8Array {
  const bytes = new Uint8Array(FIXED_BYTES + b.codingHistory.length);
  const view = new DataView(bytes.buffer);
  putText(bytes, 0, b.description, 256);
  putText(bytes, 256, b.originator, 32);
  putText(bytes, 288, b.originatorReference, 32);
  putText(bytes, 320, b.date, 10);
  putText(bytes, 330, b.time, 8);
  view.setUint32(338, b.timeReference % 2 ** 32, true);
  view.setUint32(342, Math.floor(b.timeReference / 2 ** 32), true);
  view.setUint16(346, 2, true);
  const l = b.loudness;
  const hundredths = l ? [l.integrated, l.range, l.maxTruePeak, l.maxMomentary, l.maxShortTerm] : [];
  for (let i = 0; i < 5; i++) {
    const v = hundredths[i];
    view.setInt16(412 + 2 * i, v !== undefined && Number.isFinite(v) ? Math.round(v * 100) : UNSET, true);
  }
  putText(bytes, FIXED_BYTES, b.codingHistory, b.codingHistory.length);
  return bytes;
}

/** Reads a chunk's content; a shorter one than the fixed part gives null. */
export function decodeBext(bytes: Uint8Array): Bext | null {
  if (bytes.length < FIXED_BYTES) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const version = view.getUint16(346, true);
  const l = [0, 1, 2, 3, 4].map((i) => view.getInt16(412 + 2 * i, true));
  const known = version >= 2 && l[0] !== UNSET && l.some((v) => v !== 0);
  return {
    description: getText(bytes, 0, 256),
    originator: getText(bytes, 256, 32),
    originatorReference: getText(bytes, 288, 32),
    date: getText(bytes, 320, 10),
    time: getText(bytes, 330, 8),
    timeReference: view.getUint32(338, true) + view.getUint32(342, true) * 2 ** 32,
    codingHistory: getText(bytes, FIXED_BYTES, bytes.length - FIXED_BYTES),
    ...(known
      ? {
          loudness: {
            integrated: l[0]! / 100,
            range: l[1]! / 100,
            maxTruePeak: l[2]! / 100,
            maxMomentary: l[3]! / 100,
            maxShortTerm: l[4]! / 100,
          },
        }
      : {}),
  };
}
