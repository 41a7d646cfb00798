// The transform against its definition, summed directly.
import { expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { random } from '../../../tests/support/mutate';

const k = newKernels();

function transform(re: Float64Array, im: Float64Array, tableSize: number, back = false) {
  const n = re.length;
  const at = [re, im, re, im].map((part) => k.putF64(part)) as [number, number, number, number];
  const table = k.x.alloc(k.x.fftTableBytes(tableSize));
  k.x.fftTable(table, tableSize);
  const [a, b, c, d] = at;
  if (back) k.x.fftRun(b, a, d, c, table, tableSize, n);
  else k.x.fftRun(a, b, c, d, table, tableSize, n);
  const out = [k.f64(a, n).slice(), k.f64(b, n).slice()] as const;
  for (const p of [...at, table]) k.x.release(p);
  return out;
}

it.each([1, 2, 4, 8, 16, 32, 64, 128, 512])('%i points, by a table of their own or a larger one', (n) => {
  const next = random(n);
  const re = Float64Array.from({ length: n }, () => 2 * next() - 1);
  const im = Float64Array.from({ length: n }, () => 2 * next() - 1);
  for (const tableSize of [n, 8 * n]) {
    const [outRe, outIm] = transform(re, im, tableSize);
    for (let f = 0; f < n; f++) {
      let [sumRe, sumIm] = [0, 0];
      for (let i = 0; i < n; i++) {
        const angle = (-2 * Math.PI * ((f * i) % n)) / n;
        sumRe += re[i]! * Math.cos(angle) - im[i]! * Math.sin(angle);
        sumIm += re[i]! * Math.sin(angle) + im[i]! * Math.cos(angle);
      }
      expect(outRe[f]).toBeCloseTo(sumRe, 11);
      expect(outIm[f]).toBeCloseTo(sumIm, 11);
    }
    const [backRe, backIm] = transform(outRe, outIm, tableSize, true);
    for (let i = 0; i < n; i++) {
      expect(backRe[i]! / n).toBeCloseTo(re[i]!, 13);
      expect(backIm[i]! / n).toBeCloseTo(im[i]!, 13);
    }
  }
});
