import { expect, it } from 'vitest';
import { formatBytes, formatDb, formatDuration, parseNumber, readFigure, toDb } from '.';

it('reads numbers as people type them', () => {
  expect(parseNumber('−12,5 dB')).toBe(-12.5);
  expect(parseNumber('+3')).toBe(3);
  expect(parseNumber('2.5k')).toBe(2500);
  expect(parseNumber('-inf')).toBe(-Infinity);
  expect(parseNumber('loud')).toBeNaN();
});

it('shows levels with one decimal and silence as such', () => {
  expect(formatDb(-12)).toBe('-12.0');
  expect(formatDb(3, 1, true)).toBe('+3.0');
  expect(formatDb(toDb(0))).toBe('–∞');
  expect(formatDb(-0.04)).toBe('0.0');
});

it('shows sizes and durations', () => {
  expect(formatBytes(77_760_000)).toBe('77.8 MB');
  expect(formatDuration(83.44)).toBe('1:23.4');
});

it.each<[string, string, number]>([
  ['-3', 'dB', -3],
  ['−3,5 dB', 'dB', -3.5],
  ['2 s', 's', 2],
  ['1.5k', 'Hz', 1500],
  ['1.5 kHz', 'Hz', 1500],
  ['-∞', 'dB', -Infinity],
  ['.5', '', 0.5],
  ['loud', 'dB', NaN],
  ['3 feet', 'dB', NaN],
  ['3 4', '', NaN],
  ['', 'dB', NaN],
])('"%s" read as a figure in %s is %d', (text, unit, value) => expect(readFigure(text, unit)).toBe(value));
