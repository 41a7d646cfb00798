/** Length of a step of an envelope. */
const STEP_SECONDS = 0.002;
const FLOOR_DB = -70;

/**
 * Samples by which `reference` is found later in `heard`, 0 to `most`: the lag of the largest normalised
 * cross-correlation, and how sure it is (1: the same sound). Exact to the sample for a burst with a wide spectrum.
 */
export function delayBetween(
  reference: Float32Array,
  heard: Float32Array,
  most: number,
): { delay: number; likeness: number } {
  const n = reference.length;
  const own = Math.sqrt(energy(reference, 0, n));
  let best = { delay: 0, likeness: 0 };
  for (let lag = 0; lag <= Math.min(most, heard.length - n); lag++) {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += reference[i]! * heard[lag + i]!;
    const theirs = Math.sqrt(energy(heard, lag, n));
    const likeness = own > 0 && theirs > 0 ? Math.abs(sum) / (own * theirs) : 0;
    if (likeness > best.likeness) best = { delay: lag, likeness };
  }
  return best;
}

function energy(samples: Float32Array, from: number, n: number): number {
  let sum = 0;
  for (let i = 0; i < n; i++) sum += samples[from + i]! ** 2;
  return sum;
}

/** Levels in dB every 2 ms, not below -70. */
export function envelopeOf(samples: Float32Array, rate: number): Float64Array {
  const step = Math.round(STEP_SECONDS * rate);
  return Float64Array.from({ length: Math.floor(samples.length / step) }, (_, i) =>
    Math.max(FLOOR_DB, 10 * Math.log10(energy(samples, i * step, step) / step + 1e-12)),
  );
}

/**
 * Samples by which `line` must move to lie on `guide` (both begin at the same time): the shift, within `most` samples
 * either way, at which their envelopes are most alike; `likeness` is their correlation there.
 */
export function alignEnvelopes(
  guide: Float32Array,
  line: Float32Array,
  rate: number,
  most: number,
): { shift: number; likeness: number } {
  const step = Math.round(STEP_SECONDS * rate);
  const [a, b] = [envelopeOf(guide, rate), envelopeOf(line, rate)];
  const reach = Math.floor(most / step);
  let best = { shift: 0, likeness: -1 };
  for (let lag = -reach; lag <= reach; lag++) {
    const likeness = correlate(a, b, lag);
    if (likeness > best.likeness) best = { shift: lag * step, likeness };
  }
  return best;
}

/** Waveforms that are so much alike are the same recording (1: equal); their shift is then known to the sample. */
const SAME = 0.5;
/** Seconds of waveforms that are compared. */
const COMPARED = 1.5;

/**
 * The same as alignEnvelopes, to the sample where both are the same sound: around the shift of the envelopes the one at which
 * their waveforms are most alike. Of two performances, whose waveforms are not alike, it is that of the envelopes.
 */
export function alignSounds(
  guide: Float32Array,
  line: Float32Array,
  rate: number,
  most: number,
): { shift: number; likeness: number } {
  const rough = alignEnvelopes(guide, line, rate, most);
  const reach = 2 * Math.round(STEP_SECONDS * rate);
  const [from, to] = loudest(line, Math.round(COMPARED * rate));
  let best = { shift: rough.shift, likeness: SAME };
  for (let shift = Math.max(-most, rough.shift - reach); shift <= Math.min(most, rough.shift + reach); shift++) {
    const likeness = alike(guide, line, shift, from, to);
    if (likeness > best.likeness) best = { shift, likeness };
  }
  return best.likeness > SAME ? best : rough;
}

/** Bounds of the stretch of `n` samples with the most sound, in steps of half of it. */
function loudest(samples: Float32Array, n: number): [from: number, to: number] {
  if (samples.length <= n) return [0, samples.length];
  let best = { from: 0, sum: -1 };
  for (let from = 0; from + n <= samples.length; from += n >> 1) {
    const sum = energy(samples, from, n);
    if (sum > best.sum) best = { from, sum };
  }
  return [best.from, best.from + n];
}

/** Normalised correlation of guide[i + shift] with line[i], i from `first` to `last`, over what both have. */
function alike(guide: Float32Array, line: Float32Array, shift: number, first: number, last: number): number {
  const from = Math.max(first, -shift);
  const to = Math.min(last, line.length, guide.length - shift);
  let [gg, ll, gl] = [0, 0, 0];
  for (let i = from; i < to; i++) {
    const [g, l] = [guide[i + shift]!, line[i]!];
    gg += g * g;
    ll += l * l;
    gl += g * l;
  }
  return gg > 0 && ll > 0 ? gl / Math.sqrt(gg * ll) : 0;
}

/** Correlation of a[i + lag] with b[i] over what both have, with what one lacks taken as its floor. */
function correlate(a: Float64Array, b: Float64Array, lag: number): number {
  const n = Math.max(a.length, b.length);
  let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    const x = a[i + lag] ?? FLOOR_DB;
    const y = b[i] ?? FLOOR_DB;
    sa += x;
    sb += y;
    saa += x * x;
    sbb += y * y;
    sab += x * y;
  }
  const spread = Math.sqrt((n * saa - sa * sa) * (n * sbb - sb * sb));
  return spread > 0 ? (n * sab - sa * sb) / spread : 0;
}
