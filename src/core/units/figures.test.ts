import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDb, parseFigures, reviveFigures, stringifyFigures } from '.';

describe('figures in JSON', () => {
  it('of silence, of no limit and of nothing come back as they were', () => {
    const facts = { integrated: -Infinity, over: Infinity, what: NaN, none: null, list: [0, -Infinity, 'x'] };
    expect(parseFigures(stringifyFigures(facts))).toEqual(facts);
    expect(reviveFigures(JSON.parse(stringifyFigures(facts)))).toEqual(facts);
    expect(formatDb((parseFigures(stringifyFigures({ a: -Infinity })) as { a: number }).a)).toBe('–∞');
  });
  it('leave everything else as JSON has it', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const plain = JSON.parse(JSON.stringify(value)) as unknown;
        expect(parseFigures(stringifyFigures(value))).toEqual(plain);
        expect(reviveFigures(plain)).toEqual(plain);
      }),
    );
    const name = { figure: 'dancing', other: 1 };
    expect(parseFigures(stringifyFigures([name, { figure: 'dancing' }]))).toEqual([name, { figure: 'dancing' }]);
  });
});
