import { describe, expect, it } from 'vitest';
import { sessionWith } from '../../../tests/support/session';
import { ExchangeFault, numberCues, readScript, twiceNumbered, type ScriptAsked } from '.';

const doc = sessionWith();
const read = (text: string, at = 0, asked: ScriptAsked = {}) => {
  let n = 0;
  return readScript(doc, text, at, () => `c${++n}`, asked);
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
  it('with headings in other words is read by what stands in its columns, and by what is said of them', () => {
    const list = 'Nummer;Rein;Raus;Rolle;Text\n1;10:00:01:00;10:00:02:00;Pilot;Mind the gauge, please.\n';
    expect(shape(list)).toEqual([['1', 48_000, 96_000, 'Pilot', 'Mind the gauge, please.']]);
    const bare = '10:00:01:00\t10:00:02:00\tMind the gauge, please.\tPilot\n10:00:03:00\t10:00:04:00\tAye.\tLad\n';
    const { cues, table } = read(bare);
    expect(cues.map((c) => [c.character, c.text])).toEqual([
      ['Pilot', 'Mind the gauge, please.'],
      ['Lad', 'Aye.'],
    ]);
    expect(table).toMatchObject({ headed: false, columns: { in: 0, out: 1, text: 2, speaker: 3 } });
    const swapped = read(bare, 0, { columns: { in: 1, text: 3, speaker: 2 } });
    expect(swapped.cues[0]).toMatchObject({ start: 96_000, character: 'Mind the gauge, please.', text: 'Pilot' });
    expect(() => read(bare, 0, { columns: { text: 2 } })).toThrow(/time at which a line begins/);
  });
  it('counts times from the start where they all lie before it, or where that is said', () => {
    const list = 'in,out,text\n00:00:01:00,00:00:02:00,Aye.\n';
    expect(read(list)).toMatchObject({ times: 'from the start', cues: [{ start: 48_000 }] });
    expect(() => read(list, 0, { times: 'timecode' })).toThrow(/before 10:00:00:00.*counted from the start/);
    const late = '1\n10:00:01,500 --> 10:00:02,000\nAye.\n';
    expect(read(late)).toMatchObject({ times: 'timecode', cues: [{ start: 72_000 }] });
    expect(read(late, 0, { times: 'from the start' }).cues[0]!.start).toBe((36_000 + 1.5) * 48_000);
  });
  it('takes thousandths of a second as well as frames', () => {
    const [cue] = read('in,out,text\n10:00:01.500,10:00:02:05,Aye.\n').cues;
    expect([cue!.start, cue!.end]).toEqual([72_000, 105_600]);
  });
  it('tells numbers that stand twice, among its own and those that are there', () => {
    const { cues } = read('number,in,text\n1,10:00:01:00,a\n2,10:00:02:00,b\n1,10:00:03:00,c\n');
    expect(twiceNumbered(cues)).toEqual(['1']);
    expect(twiceNumbered(cues, [{ number: '2' }, { number: '9' }, { number: '9' }])).toEqual(['2', '1']);
  });
});
