import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { runStage } from '../../../tests/support/stages';
import { stageKind } from '@/core/stages';
import { decayTime } from '.';

const RATE = 48_000;
const k = newKernels();

/** Noise that falls by 60 dB in so many seconds: its energy by e^(-13.8 t/T). */
const falling = (seconds: number): Float32Array =>
  noise(Math.round(1.5 * seconds * RATE), 1, 7).map((v, i) => v * 10 ** ((-3 * i) / (seconds * RATE)));

describe('reverberation time', () => {
  it.each([0.2, 0.5, 1.8, 4])('of noise that falls by 60 dB in %d s', (seconds) => {
    expect(decayTime(falling(seconds), RATE)! / seconds).toBeCloseTo(1, 1.5);
  });

  it('is none of silence, nor of a single impulse', () => {
    expect(decayTime(new Float32Array(1000), RATE)).toBeNull();
    expect(decayTime(Float32Array.of(1, 0, 0, 0), RATE)).toBeNull();
  });

  it.each(stageKind('reverb').presets.map((p) => [p.name, p.values] as const))(
    'of the ready room "%s" is what it says',
    (_, values) => {
      const response = new Float32Array(Math.round((values.decay! * 1.4 + 0.3) * RATE));
      response[0] = 1;
      const { out } = runStage(k, 'reverb', { ...values, mix: 100, damping: 0 }, [response], { rate: RATE });
      // From where the room begins to answer.
      const from = out[0]!.findIndex((v) => v !== 0);
      expect(Math.abs(decayTime(out[0]!.subarray(from), RATE)! / values.decay! - 1)).toBeLessThan(0.1);
    },
  );
});
