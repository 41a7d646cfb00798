import { describe, expect, it } from 'vitest';
import { sessionWith } from '../../../tests/support/session';
import { clockAhead, heardAt, promptDocOf, type PromptNews } from '.';

const news = (part: Partial<PromptNews> = {}): PromptNews => ({
  ...{ state: 'playing', position: 48_000, at: 1_000_000, cue: null, lineAt: null },
  ...part,
});

describe('what is heard now, after the last news', () => {
  it.each<[string, Partial<PromptNews>, number, number]>([
    ['goes on while it plays', {}, 1_000_500, 72_000],
    ['goes on while it records', { state: 'recording' }, 1_000_040, 49_920],
    ['stands while it is stopped', { state: 'stopped' }, 1_000_500, 48_000],
    ['is never before what was told', {}, 999_000, 48_000],
    ['does not run on for ever when nothing is told any more', {}, 2_000_000, 48_000 + 5 * 48_000],
  ])('%s', (_, part, now, sample) => expect(heardAt(news(part), now, 48_000)).toBe(sample));
});

describe('a clock', () => {
  it('is told by the quickest answer, within half of its way', () => {
    // The other is 2,000 ms ahead; ways of 4, 30 and 11 ms, the latter two longer on the way there.
    const answers = [
      { asked: 0, answered: 4, told: 2_002 },
      { asked: 10, answered: 40, told: 2_035 },
      { asked: 50, answered: 61, told: 2_059 },
    ];
    expect(clockAhead(answers)).toBe(2_000);
    expect(clockAhead(answers.slice(1))).toBeCloseTo(2_000, -1);
    expect(() => clockAhead([])).toThrow(RangeError);
  });
});

it('the performer sees the script and the picture, and nothing else of the session', () => {
  const doc = promptDocOf(
    sessionWith(
      {
        type: 'addCues',
        cues: [{ id: 'q', number: '1', start: 0, end: 10, character: 'Pilot', text: 'Aye.' }],
      },
      { type: 'setCue', cue: 'q', note: 'he is late again' },
    ),
  );
  expect(Object.keys(doc).sort()).toEqual(['cues', 'format', 'lead', 'name', 'picture']);
  expect(JSON.stringify(doc)).not.toContain('late again');
});
