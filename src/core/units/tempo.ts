/** From this beat on the tempo holds, or glides evenly per beat up to the next point. Beats count quarter notes from 0. */
export interface TempoPoint {
  beat: number;
  /** Beats a minute. */
  tempo: number;
  glides: boolean;
}

/** From this bar on (counted from 1) bars have so many beats of such a note value. */
export interface MeterPoint {
  bar: number;
  beats: number;
  /** 4: quarter notes, 8: eighths. */
  value: number;
}

interface Segment extends TempoPoint {
  /** Seconds at its first beat. */
  time: number;
  /** Change of tempo per beat; 0 holds. */
  slope: number;
}

/**
 * Beats and bars against time. With tempo T0 + s b over b beats a segment takes 60/s ln((T0 + s b)/T0) seconds
 * (the integral of 60/T), so places are exact and nothing adds up over hours. Throws RangeError when points are
 * out of order, do not start at zero, or a tempo is not positive.
 */
export class TempoMap {
  private readonly segments: Segment[] = [];
  private readonly meters: (MeterPoint & { beat: number })[] = [];

  constructor(tempos: readonly TempoPoint[], meters: readonly MeterPoint[] = [{ bar: 1, beats: 4, value: 4 }]) {
    if (tempos[0]?.beat !== 0) throw new RangeError('the first tempo stands at beat 0');
    if (meters[0]?.bar !== 1) throw new RangeError('the first metre stands at bar 1');
    let time = 0;
    tempos.forEach((t, i) => {
      if (!(t.tempo > 0 && t.tempo < 1000)) throw new RangeError(`a tempo goes from above 0 to 1000, not ${t.tempo}`);
      const next = tempos[i + 1];
      if (next && !(next.beat > t.beat))
        throw new RangeError(`tempo points stand one after the other; beat ${next.beat} does not`);
      const slope = t.glides && next ? (next.tempo - t.tempo) / (next.beat - t.beat) : 0;
      const segment = { ...t, time, slope };
      this.segments.push(segment);
      if (next) time += secondsIn(segment, next.beat - t.beat);
    });
    let beat = 0;
    meters.forEach((m, i) => {
      const previous = meters[i - 1];
      if (!(m.beats >= 1 && [1, 2, 4, 8, 16, 32].includes(m.value)))
        throw new RangeError(`${m.beats}/${m.value} is no metre`);
      if (previous) {
        if (!(m.bar > previous.bar)) throw new RangeError(`metres stand one after the other; bar ${m.bar} does not`);
        beat += (m.bar - previous.bar) * barLength(previous);
      }
      this.meters.push({ ...m, beat });
    });
  }

  /** Seconds from the start at which a beat falls. */
  secondsOf(beat: number): number {
    const s = last(this.segments, (x) => x.beat <= beat) ?? this.segments[0]!;
    return s.time + secondsIn(s, beat - s.beat);
  }

  /** The beat (with its fraction) at a time in seconds. */
  beatAt(seconds: number): number {
    const s = last(this.segments, (x) => x.time <= seconds) ?? this.segments[0]!;
    const t = seconds - s.time;
    return s.beat + (s.slope === 0 ? (t * s.tempo) / 60 : (s.tempo / s.slope) * Math.expm1((s.slope * t) / 60));
  }

  /** Nearest sample of a beat. */
  sampleOf(beat: number, sampleRate: number): number {
    return Math.round(this.secondsOf(beat) * sampleRate);
  }

  /** Tempo in beats a minute at a beat. */
  tempoAt(beat: number): number {
    const s = last(this.segments, (x) => x.beat <= beat) ?? this.segments[0]!;
    return s.tempo + s.slope * (beat - s.beat);
  }

  /** Beat at which a place in bars falls: bar from 1, beat in the bar (of its note value) from 1. */
  beatOf(bar: number, beatInBar = 1): number {
    const m = last(this.meters, (x) => x.bar <= bar) ?? this.meters[0]!;
    return m.beat + (bar - m.bar) * barLength(m) + ((beatInBar - 1) * 4) / m.value;
  }

  /** Bar and beat in the bar, both from 1, of a beat. */
  barAt(beat: number): { bar: number; beat: number } {
    const m = last(this.meters, (x) => x.beat <= beat + 1e-9) ?? this.meters[0]!;
    const bars = Math.floor((beat - m.beat) / barLength(m) + 1e-9);
    return { bar: m.bar + bars, beat: 1 + ((beat - m.beat - bars * barLength(m)) * m.value) / 4 };
  }
}

/** Quarter notes in a bar. */
const barLength = (m: MeterPoint): number => (m.beats * 4) / m.value;

const secondsIn = (s: { tempo: number; slope: number }, beats: number): number =>
  s.slope === 0 ? (60 * beats) / s.tempo : (60 / s.slope) * Math.log1p((s.slope * beats) / s.tempo);

function last<T>(list: readonly T[], holds: (item: T) => boolean): T | undefined {
  for (let i = list.length - 1; i >= 0; i--) if (holds(list[i]!)) return list[i];
  return undefined;
}
