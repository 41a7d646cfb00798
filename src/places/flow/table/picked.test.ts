import { beforeEach, expect, it } from 'vitest';
import { pickRow, pickRows, usePicked } from './picked';

const SHOWN = ['a', 'b', 'c', 'd', 'e'];
const picked = () => [...usePicked.getState().ids].sort().join('');
const click = (id: string, how: { add?: boolean; range?: boolean } = {}) =>
  pickRow(id, { add: false, range: false, ...how }, SHOWN);

beforeEach(() => pickRows([]));

it('a click picks one row alone, a second click lets it go', () => {
  click('b');
  click('d');
  expect(picked()).toBe('d');
  click('d');
  expect(picked()).toBe('');
});

it('with Ctrl rows are added and let go', () => {
  click('b');
  click('d', { add: true });
  click('b', { add: true });
  click('e', { add: true });
  expect(picked()).toBe('de');
});

it('with Shift all from the last one on, either way, in the order shown', () => {
  click('d');
  click('b', { range: true });
  expect(picked()).toBe('bcd');
  click('e', { range: true });
  expect(picked()).toBe('de');
  click('a', { add: true });
  click('b', { add: true, range: true });
  expect(picked()).toBe('abde');
});
