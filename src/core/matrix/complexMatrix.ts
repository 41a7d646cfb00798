import { ChannelSet, type Kernels } from '@/core/kernels';
import { Quadrature } from './quadrature';

/** A gain with a part in phase and a part a quarter of a turn ahead. */
export interface Complex {
  re: number;
  im: number;
}

/** Rows: inputs, columns: outputs. */
export type ComplexGains = readonly (readonly Complex[])[];

export const re = (value: number): Complex => ({ re: value, im: 0 });
export const im = (value: number): Complex => ({ re: 0, im: value });

/** Mixes inputs into outputs with gains that may turn the phase by 90 degrees; all come late by `delay` samples. */
export class ComplexMatrix {
  private readonly turns: Quadrature[];
  private direct: ChannelSet | null = null;
  private shifted: ChannelSet | null = null;
  readonly delay: number;

  constructor(
    private readonly k: Kernels,
    rate: number,
    private readonly gains: ComplexGains,
  ) {
    this.turns = gains.map(() => new Quadrature(k, rate));
    this.delay = this.turns[0]!.delay;
  }

  /** `ins`, `outs`: tables of channel addresses; the inputs stay as they are. */
  run(ins: number, outs: number, n: number): void {
    const { k } = this;
    if (!this.direct || this.direct.frames < n) {
      this.direct?.free();
      this.shifted?.free();
      this.direct = new ChannelSet(k, this.gains.length, n);
      this.shifted = new ChannelSet(k, this.gains.length, n);
    }
    const channel = (table: number, c: number) => k.heapU32[(table >> 2) + c]!;
    this.gains[0]!.forEach((_, o) => k.x.clear(channel(outs, o), n));
    this.gains.forEach((row, i) => {
      const [a, b] = [this.direct!.at(i), this.shifted!.at(i)];
      k.x.copy(a, channel(ins, i), n);
      this.turns[i]!.run(a, b, n);
      row.forEach((g, o) => {
        if (g.re !== 0) k.x.mix(a, channel(outs, o), n, g.re);
        if (g.im !== 0) k.x.mix(b, channel(outs, o), n, g.im);
      });
    });
  }

  /** Address of an input, late like the outputs, of the block that ran last. */
  late(channel: number): number {
    return this.direct!.at(channel);
  }

  free(): void {
    this.turns.forEach((t) => t.free());
    this.direct?.free();
    this.shifted?.free();
  }
}

/** The matrix of one after the other: what stays of each input in each output. */
export function through(first: ComplexGains, second: ComplexGains): Complex[][] {
  return first.map((row) =>
    second[0]!.map((_, o) =>
      row.reduce<Complex>(
        (sum, g, m) => {
          const h = second[m]![o]!;
          return { re: sum.re + g.re * h.re - g.im * h.im, im: sum.im + g.re * h.im + g.im * h.re };
        },
        { re: 0, im: 0 },
      ),
    ),
  );
}
