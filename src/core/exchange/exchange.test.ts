import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { frameRate, frameToSample, timecodeToFrames } from '@/core/units';
import {
  type ListedCue,
  ExchangeFault,
  formatCueTime,
  parseCueTime,
  cuesOfTable,
  cueTable,
  readEdl,
  readOtio,
  readSrt,
  readVtt,
  type Timeline,
  writeCueList,
  writeEdl,
  writeOtio,
  writeSrt,
  writeVtt,
} from '.';

const timeline: Timeline = {
  name: 'The Keel',
  sampleRate: 48_000,
  frameRate: '25',
  startFrames: timecodeToFrames('10:00:00:00', frameRate('25')),
  tracks: [
    {
      name: 'Narrator',
      clips: [
        { name: 'Line 1', source: 'KEEL Narrator 01.wav', start: 4801, offset: 100, length: 48_001 },
        { name: 'Line 2', source: 'KEEL Narrator 02.wav', start: 96_000, offset: 0, length: 24_000 },
      ],
    },
    { name: 'Gulls', clips: [{ name: 'Möwen', source: 'gulls/möwen & wind.wav', start: 0, offset: 0, length: 1 }] },
    { name: 'Empty', clips: [] },
  ],
  markers: [{ at: 48_000, length: 0, name: 'Boat leaves' }],
};

// Half a minute is what a run of tests gives one of them: readers that look at each mark for each other need far longer.
describe('a reader of hostile length', () => {
  const HEAD = 'WEBVTT\n\n00:00:01.000 --> 00:00:02.000\n';
  it.each([
    ['tags that are never closed', readVtt, `${HEAD}${'<v '.repeat(300_000)}`],
    ['a voice that is never closed', readVtt, `${HEAD}<v${' '.repeat(300_000)}`],
    ['classes without an end', readVtt, `${HEAD}${'<v.a'.repeat(300_000)}`],
    ['tags of the other kind', readSrt, `1\n00:00:01,000 --> 00:00:02,000\n${'<i '.repeat(300_000)}`],
  ])('comes to an end: %s', (_, read, text) => {
    expect(read(text).value).toHaveLength(1);
  });
  const event = (i: number, at: number) =>
    `${String(i).padStart(6, '0')} AX A C ${['00:00:00:00', '00:00:00:01'].join(' ')} ${timecode(at)} ${timecode(at + 1)}`;
  const timecode = (frame: number) => {
    const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
    return `${two(10 + frame / 90_000)}:${two((frame / 1500) % 60)}:${two((frame / 25) % 60)}:${two(frame % 25)}`;
  };
  it('thirty thousand events are read, and all that lie over each other are refused', () => {
    const all = Array.from({ length: 30_000 }, (_, i) => event(i + 1, i)).join('\n');
    expect(readEdl(all, '25', 48_000, 900_000).value.tracks[0]!.clips).toHaveLength(30_000);
    const heap = Array.from({ length: 30_000 }, (_, i) => event(i + 1, 0)).join('\n');
    expect(() => readEdl(heap, '25', 48_000, 900_000)).toThrow(/More than 64 events of A lie over each other/);
  });
});

describe('OpenTimelineIO', () => {
  it('comes back to the sample', () => {
    expect(readOtio(writeOtio(timeline), 48_000)).toEqual({ value: timeline, notes: [] });
  });
  it('has the schemas and the gaps that the format asks for', () => {
    const json = JSON.parse(writeOtio(timeline)) as {
      OTIO_SCHEMA: string;
      tracks: { children: { children: { OTIO_SCHEMA: string }[] }[] };
    };
    expect(json.OTIO_SCHEMA).toBe('Timeline.1');
    expect(json.tracks.children[0]!.children.map((c) => c.OTIO_SCHEMA)).toEqual(['Gap.1', 'Clip.2', 'Gap.1', 'Clip.2']);
  });
  it('any row of clips comes back', () => {
    const clips = fc
      .array(fc.record({ gap: fc.nat(1e6), offset: fc.nat(1e9), length: fc.integer({ min: 1, max: 1e8 }) }), {
        maxLength: 20,
      })
      .map((rows) => {
        let at = 0;
        return rows.map((r, i) => {
          const clip = { name: `c${i}`, source: `f ${i}.wav`, start: at + r.gap, offset: r.offset, length: r.length };
          at = clip.start + clip.length;
          return clip;
        });
      });
    fc.assert(
      fc.property(clips, (c) => {
        const t = { ...timeline, tracks: [{ name: 'A', clips: c }] };
        expect(readOtio(writeOtio(t), 48_000).value.tracks[0]!.clips).toEqual(c);
      }),
    );
  });
  it('reads frames, older clips and what it must leave out', () => {
    const time = (value: number, rate: number) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
    const text = JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      name: 'Cut',
      global_start_time: time(86_400, 23.976023976),
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        children: [
          { OTIO_SCHEMA: 'Track.1', name: 'V1', kind: 'Video', children: [] },
          {
            OTIO_SCHEMA: 'Track.1',
            name: 'A1',
            kind: 'Audio',
            children: [
              { OTIO_SCHEMA: 'Gap.1', source_range: { duration: time(24, 24) } },
              { OTIO_SCHEMA: 'Transition.1' },
              {
                OTIO_SCHEMA: 'Clip.1',
                name: 'x',
                source_range: { start_time: time(12, 24), duration: time(48, 24) },
                media_reference: { target_url: 'file:///a%20b.wav' },
              },
            ],
          },
        ],
      },
    });
    const { value, notes } = readOtio(text, 48_000);
    expect(value.frameRate).toBe('23.976');
    expect(value.tracks).toEqual([
      { name: 'A1', clips: [{ name: 'x', source: 'file:///a b.wav', start: 48_000, offset: 24_000, length: 96_000 }] },
    ]);
    expect(notes.join(' ')).toMatch(/V1 is no audio track.*transition on A1/);
  });
  it.each([
    ['a number', 7, '7'],
    ['an object', { first: 'A' }, 'Track 1'],
    ['nothing', null, 'Track 1'],
  ])('a track whose name is %s is called in words', (_, name, called) => {
    const track = { OTIO_SCHEMA: 'Track.1', name, kind: 'Audio', children: [] };
    const text = JSON.stringify({ OTIO_SCHEMA: 'Timeline.1', name: { x: 1 }, tracks: { children: [track] } });
    const { value } = readOtio(text, 48_000);
    expect([value.name, value.tracks[0]!.name]).toEqual(['', called]);
  });
  it.each(['{', '[]', '{"OTIO_SCHEMA":"Clip.1"}', '"x"'])('refuses %s', (text) => {
    expect(() => readOtio(text, 48_000)).toThrow(ExchangeFault);
  });
});

describe('CMX 3600 style edit list', () => {
  it('comes back, rounded to frames', () => {
    const text = writeEdl(timeline);
    expect(text).toMatch(/^TITLE: The Keel\r\nFCM: NON-DROP FRAME\r\n/);
    expect(text).toMatch(/001 {2}KEEL_NAR A {5}C {8}00:00:00:00 00:00:01:00 10:00:00:03 10:00:01:03\r\n/);
    const { value, notes } = readEdl(text, '25', 48_000, timeline.startFrames);
    expect(notes).toEqual([]);
    expect(value.tracks).toHaveLength(1);
    value.tracks[0]!.clips.forEach((c, i) => {
      const was = timeline.tracks[0]!.clips[i]!;
      expect([c.name, c.source]).toEqual([was.name, was.source]);
      for (const key of ['start', 'offset', 'length'] as const)
        expect(Math.abs(c[key] - was[key])).toBeLessThanOrEqual(1920);
    });
    expect(readEdl(writeEdl({ ...value }), '25', 48_000, timeline.startFrames).value).toEqual(value);
  });
  it('drop-frame lists count as SMPTE ST 12-1 does', () => {
    const rate = frameRate('29.97df');
    const start = timecodeToFrames('00:59:59;28', rate);
    const t: Timeline = {
      ...timeline,
      frameRate: '29.97df',
      startFrames: start,
      tracks: [
        {
          name: 'A',
          clips: [
            {
              name: 'a',
              source: 'a',
              start: frameToSample(2, rate, 48_000),
              offset: 0,
              length: frameToSample(4, rate, 48_000) - frameToSample(2, rate, 48_000),
            },
          ],
        },
      ],
    };
    expect(writeEdl(t)).toMatch(/FCM: DROP FRAME[\s\S]*01:00:00;00 01:00:00;02/);
  });
  it('names the lines it leaves out', () => {
    const { value, notes } = readEdl(
      [
        'TITLE: T',
        '001 AX V C 00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00',
        '002 R1 AA/V D 012 00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00',
        '003 R1 A C 00:00:00:00 00:00:01:00 01:00:02:00 01:00:01:00',
        '004 broken',
      ].join('\n'),
      '25',
      48_000,
      90_000,
    );
    expect(value.tracks.map((t) => t.name)).toEqual(['A', 'A2']);
    expect(notes).toEqual([
      'Line 3: the transition D is taken as a cut.',
      'Line 4: it ends before it starts; the event was left out.',
      'Line 5 is no event that can be read; it was left out.',
      '1 picture event was left out.',
    ]);
    expect(() => readEdl('Dear engineer', '25', 48_000, 0)).toThrow(/No audio event was found/);
  });
});

const cues: ListedCue[] = [
  { start: 1, end: 2.5, speaker: 'NARRATOR', text: 'The keel is laid.' },
  { start: 3.04, end: 4, speaker: '', text: 'Wind & <waves> -->\nsecond line' },
  { start: 3600.96, end: 3661.12, speaker: 'PILOT', text: '"Hard, to port!"' },
];

describe('lines', () => {
  it('SubRip comes back', () => {
    // The arrow within the text is kept; what looks like a tag is not: SubRip has no way to write it.
    const plain = cues.map((c) => ({ ...c, text: c.text.replace('<waves>', 'waves') }));
    expect(readSrt(writeSrt(plain))).toEqual({ value: plain, notes: [] });
    expect(writeSrt(cues).split('\r\n').slice(0, 3)).toEqual([
      '1',
      '00:00:01,000 --> 00:00:02,500',
      'NARRATOR: The keel is laid.',
    ]);
  });
  it('WebVTT comes back, with voices (W3C WebVTT: cue voice span)', () => {
    const text = writeVtt(cues);
    expect(text.startsWith('WEBVTT\n\n1\n00:00:01.000 --> 00:00:02.500\n<v NARRATOR>')).toBe(true);
    expect(readVtt(text)).toEqual({ value: cues, notes: [] });
  });
  it('WebVTT passes over notes, styles, settings and short times', () => {
    const { value } = readVtt(
      'WEBVTT - title\n\nNOTE hello\nthere\n\nSTYLE\n::cue{}\n\n01:02.5 --> 01:03.250 line:0 align:start\n<b>Hi</b> &amp; <v.loud Ann>ho',
    );
    expect(value).toEqual([{ start: 62.5, end: 63.25, speaker: 'Ann', text: 'Hi & ho' }]);
  });
  it('a cue list comes back at frame times; cells that look like formulas are harmless', () => {
    const list = { frameRate: '25', startFrames: 900_000 } as const;
    const odd = [...cues, { start: 4000, end: 4001, speaker: '=cmd', text: '-2 steps' }];
    const text = writeCueList(odd, list);
    expect(text.split('\r\n')[0]).toBe('number,in,out,speaker,text');
    expect(text).toContain("'=cmd");
    const { value, notes } = cuesOfTable(cueTable(text)!, list);
    expect(notes).toEqual([]);
    value.forEach((c, i) => {
      expect([c.speaker, c.text]).toEqual([odd[i]!.speaker, odd[i]!.text]);
      expect(c.start).toBeCloseTo(odd[i]!.start, 1);
    });
  });
  it('reads lists of other hands: other headings, semicolons, rows without times', () => {
    const { value, notes } = cuesOfTable(cueTable('Line;TC in;Character\nHello;10:00:01:00;Ann\nHo;soon;Bob\n')!, {
      frameRate: '25',
      startFrames: 900_000,
    });
    expect(value).toEqual([{ start: 1, end: 1, speaker: 'Ann', text: 'Hello' }]);
    expect(notes[0]).toMatch(/Row 3: "soon" is no timecode/);
    expect(cueTable('a,b\n1,2')).toBeNull();
  });
  it('times are read as they are written', () => {
    fc.assert(
      fc.property(fc.nat(359_999_999), fc.constantFrom(',' as const, '.' as const), (ms, point) => {
        expect(parseCueTime(formatCueTime(ms / 1000, point))).toBe(ms / 1000);
      }),
    );
    expect(parseCueTime('00:61:00,000')).toBeNull();
  });
  it('says what it could not read, and refuses what holds nothing', () => {
    expect(readSrt('1\nsoon --> later\nHello\n\n2\n00:00:01,000 --> 00:00:02,000\nHo').notes[0]).toMatch(
      /^Line 2: "soon --> later" has no times/,
    );
    expect(() => readSrt('Dear engineer')).toThrow(/No SubRip cue/);
    expect(() => readVtt('1\n00:00:01.000 --> 00:00:02.000\nHo')).toThrow(/line 1 should begin with "WEBVTT"/);
  });
});
