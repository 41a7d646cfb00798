// The 80-bit extended format of AIFF's sample rates: sign and exponent (bias 16383), 64-bit mantissa with its
// leading one written out (IEEE 754-1985 double extended).

/** Reads a number; NaN for infinities and what is no number. */
export function readExtended(b: Uint8Array, at: number): number {
  const v = new DataView(b.buffer, b.byteOffset + at, 10);
  const head = v.getUint16(0);
  const exponent = head & 0x7fff;
  if (exponent === 0x7fff) return NaN;
  const mantissa = v.getUint32(2) * 2 ** 32 + v.getUint32(6);
  return (head & 0x8000 ? -1 : 1) * mantissa * 2 ** (exponent - 16383 - 63);
}

/** Writes a number that is positive and not infinite. */
export function writeExtended(value: number): Uint8Array {
  const out = new Uint8Array(10);
  if (value === 0) return out;
  const v = new DataView(out.buffer);
  const exponent = Math.floor(Math.log2(value));
  const mantissa = value * 2 ** (63 - exponent);
  v.setUint16(0, exponent + 16383);
  v.setUint32(2, Math.floor(mantissa / 2 ** 32));
  v.setUint32(6, mantissa % 2 ** 32);
  return out;
}
