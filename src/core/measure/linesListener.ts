import { LineListener, type LineFacts } from './lineListener';
import { SameVoiceListener, type SameVoice } from './sameVoice';
import { ImageListener, imageLikeness } from './stereoImage';

/** A stereo pair among the lines: the places of its left and its right one. */
export interface LinePair {
  id: string;
  sides: readonly [number, number];
}

/** What listening to all lines of a device found so far. */
export interface LinesHeard {
  lines: LineFacts[];
  voices: SameVoice[];
  /** Stereo pairs that disagree with an earlier one about left and right: that one, by their ids. */
  swapped: [id: string, other: string][];
}

/** Pairs of lines that are compared in one look. */
const PAIRS = 8;
/** Two pairs that move alike correlate; below this one of them is the other way round (common practice, no source). */
const SWAPPED_BELOW = -0.5;

/** Listens to all lines of a device together, while the performer gives the loudest passage. */
export class LinesListener {
  private readonly lines: LineListener[];
  private readonly voices: SameVoiceListener;
  private images: { pair: LinePair; image: ImageListener }[] = [];

  constructor(
    private readonly sampleRate: number,
    width: number,
    pairs: readonly LinePair[],
  ) {
    this.lines = Array.from({ length: width }, () => new LineListener(sampleRate));
    this.voices = new SameVoiceListener(sampleRate, width);
    this.setPairs(pairs);
  }

  /** Cords were drawn anew: other pairs are listened to from now on. */
  setPairs(pairs: readonly LinePair[]): void {
    this.images = pairs.map((pair) => ({ pair, image: new ImageListener(this.sampleRate) }));
  }

  /** Takes the next samples of all lines, as many of each. */
  run(channels: readonly Float32Array[]): void {
    this.lines.forEach((line, c) => {
      if (channels[c]) line.run(channels[c]);
    });
    this.voices.run(channels);
    for (const { pair, image } of this.images) image.run(channels[pair.sides[0]]!, channels[pair.sides[1]]!);
  }

  heard(): LinesHeard {
    return {
      lines: this.lines.map((l) => l.facts()),
      voices: this.voices.look(PAIRS),
      swapped: this.images.flatMap((now, i) => {
        const other = this.images.slice(0, i).find((o) => imageLikeness(o.image, now.image) <= SWAPPED_BELOW);
        return other ? [[now.pair.id, other.pair.id] as [string, string]] : [];
      }),
    };
  }
}
