import { describe, expect, it } from 'vitest';
import { sessionWith } from '../../../tests/support/session';
import { ExchangeFault, numberCues, readScript } from '.';

const doc = sessionWith();
const read = (text: string, at = 0) => {
  let n = 0;
  return readScript(doc, text, at, () => `c${++n}`);
};
const shape = (text: string) => read(text).cues.map((c) => [c.number, c.start, c.end, c.character, c.text]);
const LIST = 'number,in,out,character,text\n12a,10:00:23:00,10:00:26:10,Pilot,"Mind the gauge, please."\n';

describe('a script', () => {
  it('as a cue list keeps its numbers and stands at its timecodes', () => {
    // 23 s after the start of the session at 10:00:00:00; 26 s and 10 frames of 25.
    expect(shape(LIST)).toEqual([['12a', 1_104_000, 1_267_200, 'Pilot', 'Mind the gauge, please.']]);
  });
  it('as subtitles, with the speaker from a voice tag or before a colon', () => {
    const vtt = 'WEBVTT\n\n00:00:01.000 --> 00:00:02.500\n<v Pilot>Slack water.</v>\n';
    const srt = '1\n00:00:01,000 --> 00:00:02,500\nPILOT: Slack water.\n';
    expect(shape(vtt)).toEqual([['', 48_000, 120_000, 'Pilot', 'Slack water.']]);
    expect(shape(srt)).toEqual([['', 48_000, 120_000, 'PILOT', 'Slack water.']]);
  });
  it('as plain lines stands one after another from the playhead, and says so', () => {
    const { cues, notes } = read('PILOT: Mind the gauge.\n\nApprentice\tWho trims it now?\nNobody.', 96_000);
    expect(cues.map((c) => [c.character, c.text])).toEqual([
      ['PILOT', 'Mind the gauge.'],
      ['Apprentice', 'Who trims it now?'],
      ['', 'Nobody.'],
    ]);
    expect(cues[0]!.start).toBe(96_000);
    for (let i = 1; i < cues.length; i++) expect(cues[i]!.start).toBeGreaterThan(cues[i - 1]!.end);
    expect(notes[0]).toMatch(/without times/);
  });
  it('a line without an end is given the time to be said', () => {
    const [cue] = read('in,text\n10:00:05:00,one two three four five six\n').cues;
    expect((cue!.end - cue!.start) / 48_000).toBeCloseTo(2, 6);
  });
  it('lines before the start of the session are left out and told', () => {
    const { cues, notes } = read('in,out,text\n09:59:00:00,09:59:02:00,Early\n10:00:01:00,10:00:02:00,There\n');
    expect(cues.map((c) => c.text)).toEqual(['There']);
    expect(notes.join()).toMatch(/1 line stands before the start/);
  });
  it('numbers go on where the list has none', () => {
    const cues = numberCues([...read(LIST).cues, ...read('Aye.').cues], 4);
    expect(cues.map((c) => c.number)).toEqual(['12a', '5']);
  });
  it('nothing to read is said plainly', () => {
    expect(() => read(' \n \n')).toThrow(ExchangeFault);
  });
});
