import { expect, it } from 'vitest';
import { channelOfLine, deviceOfLine, isLineOf, lineId, numberOfLine } from '.';

it.each(['desk', 'rooms/two', 'a/1'])('a line of %s is taken apart as it was put together', (device) => {
  const id = lineId(device, 7);
  expect([deviceOfLine(id), channelOfLine(id), numberOfLine(id)]).toEqual([device, 7, 8]);
  expect(isLineOf(device, id)).toBe(true);
});

it('a device whose name begins as another one’s has none of its lines', () => {
  expect(isLineOf('desk', lineId('desk/two', 0))).toBe(false);
  expect(isLineOf('desk', null)).toBe(false);
  expect(isLineOf('desk', undefined)).toBe(false);
});
