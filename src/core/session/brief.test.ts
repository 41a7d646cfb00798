import { describe, expect, it } from 'vitest';
import {
  listOfNames,
  namesText,
  newSeat,
  applyEdit,
  asTemplate,
  atRate,
  changesBetween,
  commonName,
  EditRefused,
  fileFormOf,
  orderOf,
  KNOWN_LIMITS,
  MONITOR,
  nameAt,
  newSession,
  planRows,
  readEdit,
  readTemplate,
  STARTING_POINTS,
  tokenFor,
  upgradeDoc,
  type BuilderRow,
  type EditJson,
  type MediaRef,
  type SessionDoc,
} from '.';

const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
} as const;
const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const start = () => newSession('Test', 'TS', { ...FORMAT });
const row = (part: Partial<BuilderRow>): BuilderRow => ({
  id: 'r',
  count: 1,
  layout: 'mono',
  kind: 'recording',
  anchor: 'time',
  names: '',
  destination: 'width',
  ...part,
});
const ref = (id: string, frames: number, sampleRate = 48000): MediaRef => ({
  id,
  name: `${id}.wav`,
  channels: 1,
  frames,
  sampleRate,
  kind: 'file',
});

describe('names of many tracks', () => {
  it.each([
    ['Narrator, Pilot', 0, 2, 'Narrator'],
    ['Narrator\nPilot', 1, 2, 'Pilot'],
    ['Narrator, Pilot', 3, 4, 'Pilot 3'],
    ['Scene {nn}', 6, 12, 'Scene 07'],
    ['Voice {n}', 10, 12, 'Voice 11'],
    ['Keeper, Gull {n}', 1, 2, 'Gull 2'],
    ['Crowd', 2, 3, 'Crowd 3'],
    ['Narrator', 0, 1, 'Narrator'],
  ])('%j gives number %i of %i the name %s', (names, index, count, expected) => {
    expect(nameAt(names, index, count)).toBe(expected);
  });
  it.each<[string, string[]]>([
    ['pilot, keeper; wind\tsea\nrope', ['pilot', 'keeper', 'wind', 'sea', 'rope']],
    ['"Voices, far", near', ['Voices, far', 'near']],
    ['"the ""old"" man",boy', ['the "old" man', 'boy']],
    [' , ;', []],
    ['half "open', ['half "open']],
  ])('%s is a list of names', (text, names) => {
    expect(listOfNames(text)).toEqual(names);
    expect(listOfNames(namesText(names))).toEqual(names);
  });
  it('are compared with what is there and with each other', () => {
    const doc = apply(start(), { type: 'addTrack', id: 'a', name: 'Pilot', layout: 'mono', destination: null });
    const planned = planRows(doc, [row({ names: 'pilot, Keeper, keeper', count: 3 })]);
    expect(planned.map((p) => p.taken)).toEqual([true, false, true]);
  });
  it('come with the default destination of the width', () => {
    const doc = apply(start(), { type: 'setDefaultDestination', layout: 'stereo', destination: 'mus' });
    const planned = planRows(doc, [
      row({}),
      row({ layout: 'stereo' }),
      row({ layout: 'quad' }),
      row({ destination: 'nar' }),
    ]);
    expect(planned.map((p) => p.destination)).toEqual(['dia', 'mus', null, 'nar']);
  });
});

describe('tracks in one go', () => {
  it('200 tracks are one edit and one undo', () => {
    const doc = start();
    const tracks = Array.from({ length: 200 }, (_, i) => ({
      id: `t${i}`,
      name: `T ${i}`,
      layout: 'mono' as const,
      kind: 'recording' as const,
      anchor: 'music' as const,
      destination: 'dia',
    }));
    const change = applyEdit(doc, readEdit({ type: 'addTracks', tracks }));
    expect(change.doc.tracks).toHaveLength(200);
    expect(change.doc.tracks[7]).toMatchObject({ name: 'T 7', anchor: 'music', destination: 'dia' });
  });
  it('a stem of the same go can be led to, stands before the reference and gets a file', () => {
    const doc = apply(start(), {
      type: 'addTracks',
      tracks: [
        { id: 'bell', name: 'Bell', layout: 'mono', kind: 'recording', destination: 'bells' },
        { id: 'bells', name: 'Bells', layout: '5.1', kind: 'stem', destination: null },
        { id: 'hall', name: 'Hall', layout: 'quad', kind: 'return', destination: 'bells' },
      ],
    });
    expect(doc.buses.at(-1)!.kind).toBe('reference');
    expect(doc.buses.find((b) => b.id === 'bells')).toMatchObject({ destination: 'ref', code: 'BE', hue: 5 });
    expect(doc.buses.find((b) => b.id === 'hall')).toMatchObject({ kind: 'return', destination: 'bells', hue: -1 });
    expect(doc.deliverables.find((d) => d.bus === 'bells')).toMatchObject({ token: 'BEL', layout: '5.1' });
    expect(doc.tracks[0]!.destination).toBe('bells');
  });
  it('all or none: one bad row keeps everything out', () => {
    const bad = (more: object) => () =>
      apply(start(), {
        type: 'addTracks',
        tracks: [{ id: 'a', name: 'A', layout: 'mono', kind: 'recording', ...more }],
      } as never);
    expect(bad({ id: 'dia' })).toThrow(/id "dia" is there already; nothing was made/);
    expect(bad({ destination: 'nowhere-bus' })).toThrow(/That bus is not in the session/);
    expect(bad({ kind: 'guitar' })).toThrow(EditRefused);
  });
  it('a prepared track is repeated for each script with chain and routing, without its takes', () => {
    const doc = apply(
      start(),
      { type: 'addTrack', id: 'a', name: 'Keeper', layout: 'mono', destination: 'dia' },
      { type: 'addTrack', id: 'z', name: 'Last', layout: 'mono', destination: 'dia' },
      { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'a-eq', stage: 'eq' },
      { type: 'addClip', id: 'c', track: 'a', start: 0, media: ref('m', 100) },
      {
        type: 'repeatTrack',
        track: 'a',
        as: [
          { id: 'b', name: 'Keeper, script 2' },
          { id: 'c', name: 'Keeper, script 3' },
        ],
      },
    );
    expect(doc.tracks.map((t) => t.id)).toEqual(['a', 'b', 'c', 'z']);
    expect(doc.tracks[1]).toMatchObject({ name: 'Keeper, script 2', destination: 'dia', clips: [], takes: [] });
    expect(doc.tracks[1]!.chain.map((s) => s.type)).toEqual(['eq']);
    expect(doc.tracks[1]!.chain[0]!.id).not.toBe('a-eq');
  });
});

describe('deliverables', () => {
  it('no two files may share a name', () => {
    const doc = apply(start(), { type: 'addDeliverable', id: 'd', bus: 'ref', layout: 'stereo', token: 'REF' });
    expect(() => apply(doc, { type: 'addDeliverable', id: 'e', bus: 'nar', layout: 'stereo', token: 'ref' })).toThrow(
      /Two files would have the same name/,
    );
    expect(() => apply(doc, { type: 'setDeliverable', deliverable: 'd', layout: '5.1' })).toThrow(/same name/);
    expect(() => apply(doc, { type: 'setDeliverable', deliverable: 'd', token: '../etc' })).toThrow(/token must be/);
    expect(tokenFor(doc, 'Reference')).toBe('REF2');
  });
  it('have limits and bits of their own, and go back to the session’s', () => {
    const d = (doc: SessionDoc) => doc.deliverables[0]!;
    const own = apply(
      start(),
      { type: 'setDeliverable', deliverable: 'print-ref', wordLength: 16 },
      { type: 'setDeliverable', deliverable: 'print-ref', limits: { ...KNOWN_LIMITS[1]!, target: -24 } },
    );
    expect(d(own)).toMatchObject({ wordLength: 16, limits: { name: 'A/85', truePeak: -2 } });
    const back = apply(own, { type: 'setDeliverable', deliverable: 'print-ref', wordLength: 24, commonLimits: true });
    expect(d(back)).not.toHaveProperty('wordLength');
    expect(d(back)).not.toHaveProperty('limits');
  });
  // EBU R 128 (2020): -23.0 LUFS, +-0.5 LU, maximum true peak -1 dBTP. ATSC A/85:2013: -24 LKFS +-2 dB, -2 dBTP.
  it('know the limits of R 128 and A/85', () => {
    expect(KNOWN_LIMITS.map((l) => [l.name, l.target, l.tolerance, l.truePeak])).toEqual([
      ['R 128', -23, 0.5, -1],
      ['A/85', -24, 2, -2],
      ['peaks only', null, 0, -1],
    ]);
  });
  it('a fold-down stays one when the mix goes to its layout and back', () => {
    const there = apply(start(), { type: 'setFormat', layout: 'stereo' });
    const back = apply(there, { type: 'setFormat', layout: '5.1' });
    expect(back.deliverables.map((d) => d.layout)).toEqual(start().deliverables.map((d) => d.layout));
  });
  it('a fold-down keeps its layout when the mix gets another', () => {
    const doc = apply(
      start(),
      { type: 'addDeliverable', id: 'd', bus: 'ref', layout: 'stereo', token: 'REF' },
      { type: 'setFormat', layout: '7.1' },
    );
    expect(doc.deliverables.map((d) => d.layout)).toEqual(['7.1', 'stereo', '7.1', '7.1', '7.1', '7.1', '7.1']);
  });
});

describe('the tempo map', () => {
  const clips = () =>
    apply(
      start(),
      {
        type: 'addTracks',
        tracks: ['time', 'music'].map((a) => ({
          id: a,
          name: a,
          layout: 'mono',
          kind: 'recording',
          anchor: a,
          destination: 'mus',
        })),
      } as EditJson,
      ...['time', 'music'].map((track): EditJson => ({
        type: 'addClip',
        id: `c-${track}`,
        track,
        start: 96000,
        media: ref(`m-${track}`, 5000),
      })),
    );
  it('carries musical clips by their starts and leaves the others; lengths stay', () => {
    // Two seconds at 120 bpm are four beats; at 60 bpm four beats are four seconds.
    const doc = apply(clips(), {
      type: 'setTempo',
      tempos: [{ beat: 0, tempo: 60, glides: false }],
      meters: [{ bar: 1, beats: 3, value: 4 }],
    });
    expect(doc.tracks.map((t) => [t.clips[0]!.start, t.clips[0]!.length])).toEqual([
      [96000, 5000],
      [192000, 5000],
    ]);
  });
  it('that makes no sense is refused and left', () => {
    const bad = {
      type: 'setTempo',
      tempos: [{ beat: 4, tempo: 60, glides: false }],
      meters: [{ bar: 1, beats: 4, value: 4 }],
    } as const;
    expect(() => apply(clips(), bad as unknown as EditJson)).toThrow(/the first tempo stands at beat 0; it was left/);
  });
});

describe('working settings stay as set', () => {
  it('click, count-in, guides, buffer', () => {
    const { settings } = apply(start(), {
      type: 'setWork',
      click: 'recording',
      clickSound: 'wood',
      clickLevel: -12,
      countIn: 2,
      guides: 'mute',
      buffer: 'long',
    });
    expect(settings).toMatchObject({
      click: { when: 'recording', sound: 'wood', level: -12 },
      countIn: 2,
      guides: 'mute',
      buffer: 'long',
    });
    expect(() => apply(start(), { type: 'setWork', countIn: 5 })).toThrow(/countIn/);
  });
});

describe('another rate', () => {
  it('keeps every second and never reaches over the end of a file', () => {
    const doc = apply(
      start(),
      { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'nar' },
      { type: 'addClip', id: 'c', track: 'a', start: 48001, media: ref('m', 1001) },
      { type: 'setRange', start: 0, end: 4_320_000 },
    );
    const next = atRate(doc, 44100, new Map([['m', ref('m44', 920, 44100)]]));
    expect(next.format.sampleRate).toBe(44100);
    expect(next.range.end).toBe(3_969_000);
    expect(next.tracks[0]!.clips[0]).toMatchObject({ media: 'm44', start: 44101, offset: 0, length: 920 });
    expect(Object.keys(next.media)).toEqual(['m44']);
    expect(atRate(doc, 96000, new Map()).tracks[0]!.clips).toEqual([]);
  });
});

describe('templates', () => {
  it('leave takes, what is armed and, if wanted, clips behind', () => {
    const doc = apply(
      start(),
      { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'nar' },
      { type: 'addClip', id: 'c', track: 'a', start: 0, media: ref('m', 100) },
    );
    const newcomer = { ...newSeat(), armed: ['a'], hearing: { a: 'always' as const } };
    expect(asTemplate({ ...doc, newcomer }, false)).toMatchObject({
      media: {},
      tracks: [{ clips: [], takes: [] }],
      newcomer: { armed: [], hearing: { a: 'always' } },
    });
    expect(asTemplate(doc, true).tracks[0]!.clips).toHaveLength(1);
  });
  it.each(STARTING_POINTS.map((p) => [p.name, p] as const))(
    '%s: every track reaches the reference through a stem',
    (_, p) => {
      for (const layout of [p.layout, '5.1', 'stereo'] as const) {
        const doc = p.make('X', 'X', { ...FORMAT, layout });
        expect(doc.tracks.length).toBeGreaterThan(0);
        for (const t of doc.tracks) expect(doc.buses.find((b) => b.id === t.destination)?.kind).toBe('stem');
        for (const to of Object.values(doc.destinations)) expect(to).not.toBe(MONITOR);
        const names = doc.deliverables.map((d) => `${d.token} ${d.layout}`);
        expect(new Set(names).size).toBe(names.length);
      }
    },
  );
  it.each([
    ['{', /no JSON/],
    ['{"format":"other"}', /no template of Wide Room/],
    ['{"format":"wide-room-template","version":9}', /has the form 9/],
    [
      JSON.stringify({ format: 'wide-room-template', version: 1, name: 'x', category: 'y', files: {}, session: {} }),
      /template is damaged/,
    ],
    [
      JSON.stringify({
        format: 'wide-room-template',
        version: 1,
        name: 'x',
        category: 'y',
        files: { m: '../../x.wav' },
        session: start(),
      }),
      /outside its folder/,
    ],
  ])('a file that is none is refused with the reason', (text, reason) => {
    expect(() => readTemplate(text)).toThrow(reason);
  });
});

describe('a session of an earlier release', () => {
  it('gets what is new at values that change nothing', () => {
    const now = apply(
      start(),
      { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'nar' },
      { type: 'addLine', device: 'd', channel: 0, name: 'Booth' },
    );
    const old = JSON.parse(JSON.stringify(now)) as Record<string, unknown> & SessionDoc;
    old.version = 1;
    for (const key of ['destinations', 'tempo', 'shelf']) delete old[key];
    old.settings = { listening: 'loudspeakers', preRoll: 2, postRoll: 1 } as never;
    for (const t of old.tracks as Partial<SessionDoc['tracks'][0]>[]) {
      delete t.anchor;
      delete t.guide;
    }
    for (const l of old.lines as Partial<SessionDoc['lines'][0]>[]) {
      delete l.sheet;
      delete l.record;
    }
    const up = upgradeDoc(old);
    expect(up.settings).toMatchObject({ listening: 'loudspeakers', preRoll: 2, guides: 'play', countIn: 0 });
    expect(up.destinations).toEqual({});
    expect(up.lines[0]).toMatchObject({ record: 'both', sheet: { kind: 'dynamic', phantom: false } });
    expect(upgradeDoc(up)).toBe(up);
  });
});

describe('what changed, in words', () => {
  it('names tracks, buses, chains, files and format', () => {
    const before = apply(
      start(),
      { type: 'addTrack', id: 'a', name: 'Pilot', layout: 'mono', destination: 'nar' },
      { type: 'addLine', device: 'd', channel: 0, name: 'Booth' },
    );
    const after = apply(
      before,
      { type: 'setTrack', track: 'a', name: 'Harbour Pilot', level: -3 },
      { type: 'sendTracks', tracks: ['a'], destination: 'dia' },
      { type: 'switchStage', owner: { kind: 'line', id: 'd/1' }, stage: 'd/1-compressor', on: true },
      { type: 'addTrack', id: 'b', name: 'Boat', layout: 'stereo', destination: 'efx' },
      { type: 'removeDeliverable', deliverable: 'print-mus' },
      { type: 'setFormat', layout: 'stereo' },
    );
    expect(changesBetween(before, after)).toEqual([
      'mix in stereo instead of 5.1',
      'track Boat is new',
      'Pilot is called Harbour Pilot',
      'Harbour Pilot at -3.0 dB instead of 0.0',
      'Harbour Pilot goes to Dialogue instead of Narration',
      'Booth: Compressor is on',
      'MUS in 5.1 is no longer asked',
      ...['REF', 'DIA', 'NAR', 'EFX', 'AMB'].map((t) => `${t} in stereo is asked differently`),
    ]);
    expect(changesBetween(after, after)).toEqual([]);
  });
});

describe('tracks named by their lines', () => {
  it('take the line’s name, or what several have in common', () => {
    expect(commonName(['Booth near'])).toBe('Booth near');
    expect(commonName(['Surf L', 'Surf R'])).toBe('Surf');
    expect(commonName(['Surf L', 'Wind R'])).toBe('');
  });
});

describe('the form of one file', () => {
  const doc = start();
  const [d] = doc.deliverables;
  const set = (part: object, from = doc) =>
    apply(from, { type: 'setDeliverable', deliverable: d!.id, ...part }).deliverables[0]!;
  it('is the session’s, unless another is asked for it', () => {
    expect(fileFormOf(doc, d!)).toEqual({ fileKind: 'Broadcast WAV', perChannel: false });
    expect(fileFormOf(doc, set({ fileKind: 'AIFF', perChannel: true }))).toEqual({
      fileKind: 'AIFF',
      perChannel: true,
    });
    // What is the session's own is not written down: it follows the session again.
    expect(set({ fileKind: 'Broadcast WAV', perChannel: false })).toEqual(d);
    const split = apply(doc, { type: 'setFormat', perChannel: true });
    expect(fileFormOf(split, set({ perChannel: false }, split)).perChannel).toBe(false);
  });
  it('has no model and no order where it has no place for them', () => {
    const aiff = apply(doc, { type: 'setDeliverable', deliverable: d!.id, fileKind: 'AIFF' });
    expect(() => set({ adm: 'bed' }, aiff)).toThrow(/only as one interleaved WAV/);
    const film = apply(doc, { type: 'setDeliverable', deliverable: d!.id, order: 'film', perChannel: true });
    expect(orderOf(film, film.deliverables[0]!)).toBe('wav');
  });
});

describe('the width of a track', () => {
  const doc = apply(
    start(),
    { type: 'addTrack', id: 't', name: 'Boat', layout: 'stereo', destination: 'efx' },
    { type: 'addLine', device: 'd', channel: 0, name: 'One' },
    { type: 'patch', track: 't', channel: 0, line: 'd/1' },
  );
  it('changes while it holds no sound, and keeps the cords that still have a channel', () => {
    const [wide] = apply(doc, { type: 'setTrack', track: 't', layout: '5.1' }).tracks;
    expect(wide).toMatchObject({ layout: '5.1', inputs: ['d/1', null, null, null, null, null] });
    expect(apply(doc, { type: 'setTrack', track: 't', layout: 'mono' }).tracks[0]!.inputs).toEqual(['d/1']);
  });
  it('stays where it holds sound', () => {
    const media = { ...ref('m', 100), channels: 2 };
    const full = apply(doc, { type: 'addClip', id: 'c', track: 't', start: 0, media });
    expect(() => apply(full, { type: 'setTrack', track: 't', layout: 'mono' })).toThrow(/holds sound in stereo/);
  });
});
