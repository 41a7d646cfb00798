import { describe, expect, it } from 'vitest';
import { codeFor, EditRefused, newLine, NewSession, newSession, newStage, readAs, voiceChain } from '.';

const good = {
  name: 'The Lamp',
  code: 'TL',
  sampleRate: 48000,
  wordLength: 24,
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
};
const make = (part: object) => {
  const asked = readAs(NewSession, { ...good, ...part }, 'New session');
  asked.check();
  return newSession(asked.name, asked.code, asked.format());
};

describe('a new session', () => {
  it('has what was asked, five stems that feed the reference, and their files', () => {
    const doc = make({ layout: 'stereo', wordLength: 32 });
    expect(doc.format).toMatchObject({
      sampleRate: 48000,
      wordLength: 32,
      layout: 'stereo',
      fileKind: 'Broadcast WAV',
    });
    expect(doc.buses.filter((b) => b.kind === 'stem').map((b) => [b.code, b.hue, b.destination])).toEqual([
      ['DI', 0, 'ref'],
      ['NA', 1, 'ref'],
      ['MU', 2, 'ref'],
      ['EF', 3, 'ref'],
      ['AM', 4, 'ref'],
    ]);
    expect(doc.deliverables.map((d) => d.token)).toEqual(['REF', 'DIA', 'NAR', 'MUS', 'EFX', 'AMB']);
    expect(doc.buses.every((b) => b.layout === 'stereo')).toBe(true);
  });
  it.each([
    [{ name: '' }, /name: give the session a name/],
    [{ code: 'too long a code' }, /code: 1 to 8 letters/],
    [{ code: 'a/b' }, /code:/],
    [{ sampleRate: 22050 }, /sampleRate: choose/],
    [{ wordLength: 20 }, /wordLength: choose/],
    [{ frameRate: '26' }, /frameRate: choose/],
    [{ layout: '6.1' }, /layout/],
    [{ startTimecode: '10:00:00:25' }, /startTimecode: .*count from 00 to 24/],
    [{ extra: 1 }, /extra should not exist/],
  ])('%j is refused with a hint', (part, message) => {
    expect(() => make(part)).toThrow(message);
    expect(() => make(part)).toThrow(EditRefused);
  });
  it('names every fault at once', () => {
    expect(() => make({ name: '', code: '', sampleRate: 1 })).toThrow(/name:.*code:.*sampleRate:/);
  });
  it.each([42, null, 'text', []])('%j is no session', (json) => {
    expect(() => readAs(NewSession, json, 'New session')).toThrow(/expected an object/);
  });
});

describe('what it starts with', () => {
  it('a voice chain: low cut at 70 Hz, gate, compressor that is off (common practice)', () => {
    expect(voiceChain('x').map((s) => [s.type, s.on])).toEqual([
      ['lowCut', true],
      ['gate', true],
      ['compressor', false],
    ]);
    expect(voiceChain('x')[0]!.values.frequency).toBe(70);
    expect(newLine('dev', 4, 'Booth')).toMatchObject({ id: 'dev/5', channel: 4, name: 'Booth' });
    expect(newStage('c', 'compressor', true).on).toBe(true);
  });
  it('letters that no other stem has', () => {
    expect(codeFor('Bells', [])).toBe('BE');
    expect(codeFor('Bells', ['BE'])).toBe('BL');
    expect(codeFor('B', [])).toBe('B1');
    const taken: string[] = [];
    for (let i = 0; i < 12; i++) taken.push(codeFor('Boat', taken));
    expect(new Set(taken).size).toBe(12);
  });
});
