import { fade, frames, level, random, RATE, smoother } from './random';

/** The foghorn: a long low blast and its grunt at the end. */
export function foghorn(): Float32Array[] {
  const n = frames(5.5);
  const breath = smoother(300);
  const rnd = random(17);
  const out = new Float32Array(n);
  const shares = Array.from({ length: 9 }, (_, h) => 1 / Math.pow(h + 1, 0.9));
  for (let i = 0; i < n; i++) {
    const t = i / RATE;
    const grunt = t > 2.6;
    const f = grunt ? 78 : 98 + 2 * Math.min(1, t * 3);
    const shape = grunt ? Math.exp(-(t - 2.6) * 1.6) : Math.min(1, t * 6);
    let x = 0;
    for (let h = 1; h <= 9; h++) x += Math.sin(2 * Math.PI * f * h * t + h) * shares[h - 1]!;
    out[i] = shape * (x + 0.8 * breath(rnd() * 2 - 1));
  }
  return level(fade([out], 0.08, 1.2), -9);
}

/** An old diesel passing, stereo, from left to right. */
export function boat(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const rnd = random(53);
  const thump = smoother(160);
  const water = smoother(900);
  let next = 0;
  let env = 0;
  const out = [new Float32Array(n), new Float32Array(n)];
  for (let i = 0; i < n; i++) {
    if (i >= next) {
      env = 0.8 + 0.4 * rnd();
      next = i + frames(0.148 + 0.012 * rnd());
    }
    env *= 0.99965;
    const noise = rnd() * 2 - 1;
    const x = thump(noise * env) * 3 + water(noise) * 0.12;
    const u = i / n;
    const near = Math.sin(Math.PI * u);
    out[0]![i] = x * near * Math.cos((u * Math.PI) / 2);
    out[1]![i] = x * near * Math.sin((u * Math.PI) / 2);
  }
  return level(fade(out, 3, 3), -14);
}

/** Mooring ropes that creak. */
export function ropes(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const out = new Float32Array(n);
  const rnd = random(211);
  for (let t = 0.3; t < seconds - 1.5; t += 1.6 + rnd() * 2.4) {
    const length = 0.5 + rnd() * 0.7;
    const from = frames(t);
    let phase = 0;
    for (let i = 0; i < frames(length); i++) {
      const u = i / frames(length);
      phase += (150 + 90 * u + 30 * Math.sin(u * 40)) / RATE;
      // A stick-slip pulse train through two resonances.
      const tooth = Math.pow(1 - (phase % 1), 8);
      out[from + i]! += tooth * Math.sin(Math.PI * u) * (Math.sin(i * 0.09) + 0.5 * Math.sin(i * 0.21));
    }
  }
  return level([out], -18);
}

/** A bell buoy: inharmonic partials, struck by the swell. */
export function bell(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const out = new Float32Array(n);
  const rnd = random(97);
  const partials = [
    [1, 1, 1.6],
    [2.01, 0.6, 1.1],
    [2.74, 0.5, 0.8],
    [4.16, 0.3, 0.5],
    [5.43, 0.2, 0.35],
  ] as const;
  // Every stroke sounds alike.
  const stroke = new Float32Array(frames(2.8));
  for (const [ratio, gain, decay] of partials)
    for (let i = 0; i < stroke.length; i++) {
      const s = i / RATE;
      stroke[i]! += gain * Math.exp(-s / decay) * Math.sin(2 * Math.PI * 523 * ratio * s) * Math.min(1, i / 60);
    }
  for (let t = 0.2; t < seconds - 3; t += 2.1 + rnd() * 2.6) {
    const strength = 0.5 + rnd() * 0.5;
    const from = frames(t);
    for (let i = 0; i < stroke.length; i++) out[from + i]! += strength * stroke[i]!;
  }
  return level(fade([out], 0.01, 1), -16);
}
