import { describe, expect, it } from 'vitest';
import { travelTime, weightA, weightC } from '.';

describe('weightings', () => {
  // IEC 61672-1 table 3 (values from memory), nominal frequencies taken at their exact base-ten centres.
  it.each([
    [31.5, -39.4, -3.0],
    [63, -26.2, -0.8],
    [100, -19.1, -0.3],
    [250, -8.6, 0],
    [500, -3.2, 0],
    [1000, 0, 0],
    [2000, 1.2, -0.2],
    [4000, 1.0, -0.8],
    [8000, -1.1, -3.0],
    [16000, -6.6, -8.5],
  ])('A and C at %f Hz: %f, %f dB', (nominal, a, c) => {
    const exact = 1000 * 10 ** (Math.round(10 * Math.log10(nominal / 1000)) / 10);
    expect(weightA(exact)).toBeCloseTo(a, 0.5);
    expect(Math.abs(weightA(exact) - a)).toBeLessThanOrEqual(0.06);
    expect(Math.abs(weightC(exact) - c)).toBeLessThanOrEqual(0.06);
  });
});

// 343.2 m/s at 20 °C: 2.914 ms a metre.
it('sound takes 2.914 ms a metre', () => {
  expect(travelTime(1) * 1000).toBeCloseTo(2.914, 3);
});
