import { fade, frames, level, random, RATE, slowly, smoother } from './random';

/** Surf in 5.1 (L R C LFE Ls Rs): breakers that come in from the front and run out behind. */
export function surf(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const delays = [0, 0.35, 0.15, 0.2, 1.3, 1.6];
  const shares = [1, 0.95, 0.7, 0.5, 0.75, 0.7];
  const channels = delays.map((delay, c) => {
    const rnd = random(101 + c);
    const low = smoother(c === 3 ? 70 : 420);
    const wash = smoother(2600);
    const rumble = smoother(45);
    const out = new Float32Array(n);
    // Two swells of different length never fall together twice.
    const swells = slowly(n, (i) => {
      const t = i / RATE - delay;
      return (
        Math.pow(0.5 + 0.5 * Math.sin((2 * Math.PI * t) / 9.3 - 1.4), 3) +
        0.6 * Math.pow(0.5 + 0.5 * Math.sin((2 * Math.PI * t) / 14.1), 4)
      );
    });
    for (let i = 0; i < n; i++) {
      const swell = swells[i]!;
      const x = rnd() * 2 - 1;
      const body = low(x) * (0.35 + 1.1 * swell);
      const foam = c === 3 ? 0 : (x - wash(x)) * 0.05 * swell * swell;
      out[i] = shares[c]! * (body + foam + (c === 3 ? 6 * rumble(x) * swell : 0));
    }
    return out;
  });
  return level(fade(channels, 2, 4), -13);
}

/** Wind around the tower, stereo. */
export function wind(seconds: number): Float32Array[] {
  const channels = [0, 1].map((side) => {
    const rnd = random(401 + side);
    const slow = smoother(0.35);
    const low = smoother(700);
    const lower = smoother(140);
    const out = new Float32Array(frames(seconds));
    for (let i = 0; i < out.length; i++) {
      const gust = 0.4 + Math.abs(slow(rnd() * 2 - 1)) * 60;
      const x = rnd() * 2 - 1;
      out[i] = (low(x) - lower(x)) * gust;
    }
    return out;
  });
  return level(fade(channels, 3, 4), -24);
}

/** A few gulls, stereo: falling cries at changing places. */
export function gulls(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const out = [new Float32Array(n), new Float32Array(n)];
  const rnd = random(733);
  for (let t = 0.4; t < seconds - 1.2; t += 0.5 + rnd() * 3.2) {
    const pan = rnd();
    const pitch = 1250 + rnd() * 500;
    const calls = 1 + Math.floor(rnd() * 3);
    for (let c = 0; c < calls; c++) {
      const length = 0.28 + rnd() * 0.14;
      const from = frames(t + c * 0.36);
      let phase = 0;
      for (let i = 0; i < frames(length) && from + i < n; i++) {
        const u = i / frames(length);
        phase += (2 * Math.PI * pitch * (1 + 0.25 * Math.sin(Math.PI * u) - 0.22 * u)) / RATE;
        const x =
          Math.pow(Math.sin(Math.PI * u), 2) *
          (Math.sin(phase) + 0.4 * Math.sin(2 * phase) + 0.2 * Math.sin(3 * phase));
        out[0]![from + i]! += x * Math.cos((pan * Math.PI) / 2);
        out[1]![from + i]! += x * Math.sin((pan * Math.PI) / 2);
      }
    }
  }
  return level(out, -22);
}
