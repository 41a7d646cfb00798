import { describe, expect, it } from 'vitest';
import { sessionWith } from '../../../../tests/support/session';
import { cueBeside, NO_FILTER, shownCues } from './shownCues';

const doc = sessionWith({
  type: 'addCues',
  cues: [
    ['Pilot', 'Mind the gauge.'],
    ['Apprentice', 'It reads four.'],
    ['Pilot', 'Four and falling.'],
    ['Narrator', 'The lamp turned.'],
  ].map(([character, text], i) => ({
    id: `q${i + 1}`,
    number: `${i + 1}`,
    start: (i + 1) * 48_000,
    end: (i + 1) * 48_000 + 24_000,
    character: character!,
    text: text!,
  })),
});
const cue = (id: string) => doc.cues.find((c) => c.id === id);
const pilot = { ...NO_FILTER, character: 'Pilot' };

describe('cues of the script', () => {
  it.each([
    [NO_FILTER, ['q1', 'q2', 'q3', 'q4']],
    [pilot, ['q1', 'q3']],
    [{ ...NO_FILTER, words: 'FOUR' }, ['q2', 'q3']],
    [{ ...NO_FILTER, words: '4' }, ['q4']],
    [{ ...NO_FILTER, state: 'done' as const }, []],
  ])('are shown by the filter', (filter, ids) => expect(shownCues(doc, filter).map((c) => c.id)).toEqual(ids));

  it('the next one is the next that is shown', () => {
    expect(cueBeside(doc, pilot, cue('q1'), 0, 1)?.id).toBe('q3');
    expect(cueBeside(doc, NO_FILTER, cue('q1'), 0, 1)?.id).toBe('q2');
    expect(cueBeside(doc, pilot, cue('q3'), 0, -1)?.id).toBe('q1');
  });
  it('from a cue that is not shown it is the nearest in that direction', () => {
    expect(cueBeside(doc, pilot, cue('q2'), 0, 1)?.id).toBe('q3');
    expect(cueBeside(doc, pilot, cue('q2'), 0, -1)?.id).toBe('q1');
    expect(cueBeside(doc, pilot, cue('q4'), 0, 1)).toBeUndefined();
  });
  it('with none chosen it is the first after the playhead', () => {
    expect(cueBeside(doc, pilot, undefined, 60_000, 1)?.id).toBe('q3');
    expect(cueBeside(doc, pilot, undefined, 60_000, -1)?.id).toBe('q1');
  });
});
