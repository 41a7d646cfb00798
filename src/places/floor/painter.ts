/** What rows are drawn with: areas, frames and lines, in CSS pixels. */
export interface Painter {
  /** Fills with a colour, `alpha` of it. */
  fill(colour: string, x: number, y: number, width: number, height: number, alpha?: number): void;
  frame(colour: string, x: number, y: number, width: number, height: number): void;
  line(colour: string, x0: number, y0: number, x1: number, y1: number): void;
}

type Rgb = [red: number, green: number, blue: number];

/** "#rrggbb" of any colour that the browser knows. */
export function rgbOf(hex: string): Rgb {
  const n = parseInt(hex.slice(1), 16);
  return [(n >> 16) & 255, (n >> 8) & 255, n & 255];
}

const OPAQUE = 0xff << 24;
/** As a signed integer: what machines count with, and engines too. */
const packed = (r: number, g: number, b: number): number => OPAQUE | (b << 16) | (g << 8) | r;

/**
 * Draws into pixels and hands them over at once: thousands of waveform columns cost little more than the memory they
 * fill, where a canvas without a graphics card would replay each of them as a command of its own.
 */
export class PixelPainter implements Painter {
  private readonly pixels: Int32Array;
  private last = { colour: '', rgb: [0, 0, 0] as Rgb, solid: 0 };
  private readonly colours = new Map<string, Rgb>();

  /** `bytes`: RGBA of `width` x `height` device pixels; `ratio` of them are a CSS pixel. `resolve` gives "#rrggbb". */
  constructor(
    bytes: Uint8ClampedArray,
    private readonly width: number,
    private readonly height: number,
    private readonly ratio: number,
    private readonly resolve: (colour: string) => string,
  ) {
    this.pixels = new Int32Array(bytes.buffer, bytes.byteOffset, width * height);
  }

  private take(colour: string): { rgb: Rgb; solid: number } {
    if (this.last.colour === colour) return this.last;
    let rgb = this.colours.get(colour);
    if (!rgb) this.colours.set(colour, (rgb = rgbOf(this.resolve(colour))));
    this.last = { colour, rgb, solid: packed(...rgb) };
    return this.last;
  }

  /** Covers everything with a colour. */
  clear(colour: string): void {
    this.pixels.fill(this.take(colour).solid);
  }

  fill(colour: string, x: number, y: number, width: number, height: number, alpha = 1): void {
    const { ratio } = this;
    const left = Math.max(0, Math.round(x * ratio));
    const right = Math.min(this.width, Math.max(left, Math.round((x + width) * ratio)));
    const top = Math.max(0, Math.round(y * ratio));
    const bottom = Math.min(this.height, Math.max(top + (height > 0 ? 1 : 0), Math.round((y + height) * ratio)));
    const { rgb, solid } = this.take(colour);
    const { pixels } = this;
    if (right - left === 1 && alpha >= 1) {
      // A column of a waveform: one after another, without the cost of a call for each pixel.
      for (let i = top * this.width + left, end = bottom * this.width; i < end; i += this.width) pixels[i] = solid;
      return;
    }
    for (let row = top; row < bottom; row++) {
      const from = row * this.width + left;
      const to = row * this.width + right;
      if (alpha >= 1) pixels.fill(solid, from, to);
      else this.blend(rgb, alpha, from, to);
    }
  }

  private blend([r, g, b]: Rgb, alpha: number, from: number, to: number): void {
    const { pixels } = this;
    // In 256ths: whole numbers all the way.
    const share = Math.round(alpha * 256);
    const keep = 256 - share;
    // Neighbours are mostly alike: what was blended last is remembered.
    let seen = 0;
    let made = 0;
    for (let i = from; i < to; i++) {
      const old = pixels[i]!;
      if (old !== seen) {
        seen = old;
        made = packed(
          ((old & 255) * keep + r * share + 128) >> 8,
          (((old >> 8) & 255) * keep + g * share + 128) >> 8,
          (((old >> 16) & 255) * keep + b * share + 128) >> 8,
        );
      }
      pixels[i] = made;
    }
  }

  frame(colour: string, x: number, y: number, width: number, height: number): void {
    this.fill(colour, x, y, width, 1);
    this.fill(colour, x, y + height - 1, width, 1);
    this.fill(colour, x, y, 1, height);
    this.fill(colour, x + width - 1, y, 1, height);
  }

  line(colour: string, x0: number, y0: number, x1: number, y1: number): void {
    const steps = Math.ceil(Math.max(Math.abs(x1 - x0), Math.abs(y1 - y0)) * this.ratio);
    for (let i = 0; i <= steps; i++) {
      const at = steps === 0 ? 0 : i / steps;
      this.fill(colour, x0 + (x1 - x0) * at, y0 + (y1 - y0) * at, 1 / this.ratio, 1 / this.ratio);
    }
  }
}
