import { type ComplexGains, im, re, through } from './complexMatrix';

// Regular Matrix (values from memory): cos and sin of 22.5 degrees.
const WIDE = Math.cos(Math.PI / 8);
const NEAR = Math.sin(Math.PI / 8);

/** Quad in the order L R Ls Rs to Lt Rt: Lt = 0.924 L + 0.383 R + j 0.924 Ls + j 0.383 Rs, Rt alike with -j. */
export const ENCODE_FOUR: ComplexGains = [
  [re(WIDE), re(NEAR)],
  [re(NEAR), re(WIDE)],
  [im(WIDE), im(-NEAR)],
  [im(NEAR), im(-WIDE)],
];

/** Lt Rt back to L R Ls Rs: the transposed encoder with its phase turned back. */
export const DECODE_FOUR: ComplexGains = [0, 1].map((t) =>
  ENCODE_FOUR.map((row) => ({ re: row[t]!.re, im: -row[t]!.im })),
);

/** What stays of each of the four channels (rows) in each (columns) after encoder and decoder, in dB. */
export const fourInTwoCrosstalk = (): number[][] =>
  through(ENCODE_FOUR, DECODE_FOUR).map((row) =>
    row.map((g) => {
      const size = Math.hypot(g.re, g.im);
      return size < 1e-9 ? -Infinity : 20 * Math.log10(size);
    }),
  );
