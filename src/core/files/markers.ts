import { ascii, type FileMarker } from './audioInfo';

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const MOST_MARKERS = 100_000;

function chunk(id: string, content: Uint8Array): Uint8Array {
  const out = new Uint8Array(8 + content.length + (content.length & 1));
  out.set(encoder.encode(id));
  new DataView(out.buffer).setUint32(4, content.length, true);
  out.set(content, 8);
  return out;
}

export function joined(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  parts.reduce((at, p) => (out.set(p, at), at + p.length), 0);
  return out;
}

/** "cue " and LIST/adtl chunks (Multimedia Programming Interface and Data Specifications 1.0, 1991) for markers. */
export function encodeMarkers(markers: readonly FileMarker[]): Uint8Array {
  if (markers.length === 0) return new Uint8Array(0);
  const cue = new Uint8Array(4 + 24 * markers.length);
  const v = new DataView(cue.buffer);
  v.setUint32(0, markers.length, true);
  markers.forEach((m, i) => {
    const at = 4 + 24 * i;
    v.setUint32(at, i + 1, true);
    v.setUint32(at + 4, m.at, true);
    cue.set(encoder.encode('data'), at + 8);
    v.setUint32(at + 20, m.at, true);
  });
  const labels = markers.map((m, i) => {
    const text = encoder.encode(m.label);
    const content = new Uint8Array(4 + text.length + 1);
    new DataView(content.buffer).setUint32(0, i + 1, true);
    content.set(text, 4);
    return chunk('labl', content);
  });
  return joined([chunk('cue ', cue), chunk('LIST', joined([encoder.encode('adtl'), ...labels]))]);
}

/** Ids and places of a "cue " chunk; a short one gives those that are whole. */
export function decodeCue(b: Uint8Array): Map<number, number> {
  const out = new Map<number, number>();
  if (b.length < 4) return out;
  const v = new DataView(b.buffer, b.byteOffset, b.length);
  const count = Math.min(v.getUint32(0, true), MOST_MARKERS, Math.floor((b.length - 4) / 24));
  for (let i = 0; i < count; i++) out.set(v.getUint32(4 + 24 * i, true), v.getUint32(4 + 24 * i + 20, true));
  return out;
}

/** Labels by id of a LIST chunk, if it is an "adtl" one. */
export function decodeLabels(b: Uint8Array): Map<number, string> {
  const out = new Map<number, string>();
  if (b.length < 4 || ascii(b, 0, 4) !== 'adtl') return out;
  const v = new DataView(b.buffer, b.byteOffset, b.length);
  for (let at = 4; at + 12 <= b.length && out.size < MOST_MARKERS;) {
    const size = v.getUint32(at + 4, true);
    if (ascii(b, at, 4) === 'labl' && size >= 4) {
      const text = b.subarray(at + 12, Math.min(b.length, at + 8 + size));
      out.set(v.getUint32(at + 8, true), decoder.decode(text).replace(/\0.*$/s, ''));
    }
    at += 8 + size + (size & 1);
  }
  return out;
}

export const markersOf = (cue: Map<number, number>, labels: Map<number, string>): FileMarker[] =>
  [...cue].map(([id, at]) => ({ at, label: labels.get(id) ?? '' })).sort((a, b) => a.at - b.at);
