// Pairwise amplitude panning in the plane: Pulkki, "Virtual Sound Source Positioning Using Vector Base
// Amplitude Panning", J. Audio Eng. Soc. 45(6), 1997. Angles in degrees, positive to the left.
const RAD: f64 = 3.141592653589793 / 180.0;

/**
 * Gains for a source at `azimuth`, `distance` 0 (centre of the room: all speakers alike) to 1 (on the
 * ring). `angles`: f64 per speaker, going round once in rising order; `out`: f64 per speaker.
 * The sum of squares is 1.
 */
export function panGains(azimuth: f64, distance: f64, angles: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i++) store<f64>(out + (<usize>i << 3), 0);
  if (count == 1) {
    store<f64>(out, 1);
    return;
  }
  place(azimuth, angles, count, out);
  const d = min(max(distance, 0.0), 1.0);
  const even = (1.0 - d) / sqrt(<f64>count);
  let power = 0.0;
  for (let i = 0; i < count; i++) {
    const g = load<f64>(out + (<usize>i << 3)) * d + even;
    store<f64>(out + (<usize>i << 3), g);
    power += g * g;
  }
  const unit = 1.0 / sqrt(power);
  for (let i = 0; i < count; i++) store<f64>(out + (<usize>i << 3), load<f64>(out + (<usize>i << 3)) * unit);
}

function angle(angles: usize, i: i32): f64 {
  return load<f64>(angles + (<usize>i << 3)) * RAD;
}

// Finds the pair of neighbours whose two gains are both positive; a gap of 180 degrees or more has none,
// then the nearer speaker takes all.
function place(azimuth: f64, angles: usize, count: i32, out: usize): void {
  const x = NativeMath.cos(azimuth * RAD);
  const y = NativeMath.sin(azimuth * RAD);
  let bestPair = -1;
  let bestLow = -1e9;
  let g1 = 0.0;
  let g2 = 0.0;
  for (let i = 0; i < count; i++) {
    const j = (i + 1) % count;
    const ax = NativeMath.cos(angle(angles, i)), ay = NativeMath.sin(angle(angles, i));
    const bx = NativeMath.cos(angle(angles, j)), by = NativeMath.sin(angle(angles, j));
    const det = ax * by - ay * bx;
    // Neighbours half a circle or more apart: their gains would be positive on the other side of the room.
    if (det < 1e-9) continue;
    const a = (x * by - y * bx) / det;
    const b = (ax * y - ay * x) / det;
    const low = min(a, b);
    if (low > bestLow) {
      bestLow = low;
      bestPair = i;
      g1 = a;
      g2 = b;
    }
  }
  if (bestPair < 0 || bestLow < -1e-6) {
    let nearest = 0;
    let closeness = -2.0;
    for (let i = 0; i < count; i++) {
      const c = NativeMath.cos(angle(angles, i)) * x + NativeMath.sin(angle(angles, i)) * y;
      if (c > closeness + 1e-12) {
        closeness = c;
        nearest = i;
      }
    }
    store<f64>(out + (<usize>nearest << 3), 1);
    return;
  }
  const a = max(g1, 0.0);
  const b = max(g2, 0.0);
  const unit = 1.0 / sqrt(a * a + b * b);
  store<f64>(out + (<usize>bestPair << 3), a * unit);
  store<f64>(out + (<usize>((bestPair + 1) % count) << 3), b * unit);
}
