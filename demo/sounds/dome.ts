import { fade, frames, level, random, RATE, slowly, smoother } from './random';

/** Rain on the copper of the dome, in 7.1.4: thin all around, thick overhead, drops that fall for themselves. */
export function rain(seconds: number): Float32Array[] {
  const n = frames(seconds);
  // L R C LFE Lrs Rrs Lss Rss Ltf Rtf Ltr Rtr.
  const shares = [0.28, 0.28, 0.2, 0, 0.34, 0.34, 0.3, 0.3, 1, 0.96, 0.9, 0.94];
  const channels = shares.map((share, c) => {
    const rnd = random(601 + c);
    const [high, low] = [smoother(6500), smoother(900)];
    const out = new Float32Array(n);
    const thickness = slowly(n, (i) => 0.6 + 0.4 * Math.sin((2 * Math.PI * (i / RATE + c)) / 17));
    let drop = 0;
    for (let i = 0; i < n; i++) {
      const x = rnd() * 2 - 1;
      if (rnd() < 0.0004 * share) drop = 0.5 + rnd();
      drop *= 0.996;
      out[i] = share * (high(x) - low(x)) * thickness[i]! + share * drop * x * 0.5;
    }
    return out;
  });
  return level(fade(channels, 2, 3), -21);
}

/** The clockwork that turns the lamp: a beat every second and a half, a wheel between them. */
export function clockwork(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const rnd = random(977);
  const ring = smoother(2200);
  const out = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const t = (i / RATE) % 1.5;
    const strike = t < 0.25 ? Math.exp(-t * 30) : t > 0.7 && t < 0.9 ? 0.5 * Math.exp(-(t - 0.7) * 40) : 0;
    const wheel = 0.03 * Math.sin((2 * Math.PI * 31 * i) / RATE);
    const tone = Math.sin(2 * Math.PI * 640 * t) + 0.6 * Math.sin(2 * Math.PI * 1711 * t);
    out[i] = ring((rnd() * 2 - 1) * 0.4 + tone) * strike + wheel;
  }
  return level(fade([out], 1, 2), -12);
}
