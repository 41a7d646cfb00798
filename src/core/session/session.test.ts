import { pathFrom, wouldLoop } from '@/core/paths';
import { describe, expect, it } from 'vitest';
import {
  changesBetween,
  applyEdit,
  busOf,
  EditRefused,
  newSession,
  patchDoc,
  readEdit,
  type EditJson,
  type MediaRef,
  type SessionDoc,
  EDIT_NAMES,
  frozenFrom,
} from '.';

const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
} as const;
const media = (id: string, frames = 48000, kind: MediaRef['kind'] = 'file'): MediaRef => ({
  id,
  name: `${id}_T01.wav`,
  channels: 1,
  frames,
  sampleRate: 48000,
  kind,
});

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const start = () =>
  apply(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'addTrack', id: 'a', name: 'Narrator', layout: 'mono', destination: 'nar' },
    { type: 'addTrack', id: 'b', name: 'Boat', layout: 'stereo', destination: 'efx' },
    { type: 'addLine', device: 'dev', channel: 0, name: 'Booth' },
    { type: 'addLine', device: 'dev', channel: 1, name: 'Table' },
    { type: 'addClip', id: 'c1', track: 'a', start: 1000, media: media('m1') },
    { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'a-comp', stage: 'compressor' },
    { type: 'patch', track: 'a', channel: 0, line: 'dev/2' },
    { type: 'addRoomTone', id: 'rt', name: 'Tone', media: media('mt', 24000) },
  );

/** The session with a script, a take, two comps and a file that nothing uses. */
const rich = () => frozenBus(withFrozen(unfrozen()), 'efx');
const busEdit = (doc: SessionDoc, bus: string): EditJson => ({
  type: 'freezeBus',
  bus,
  media: { ...media(`frozen-${bus}`, 96_000), channels: 6 },
  start: 0,
  from: frozenFrom(doc, busOf(doc, bus)),
});
const frozenBus = (doc: SessionDoc, bus: string) => apply(doc, busEdit(doc, bus));
const withFrozen = (doc: SessionDoc) =>
  apply(doc, {
    type: 'freezeTrack',
    track: 'f',
    media: media('frozen-f', 96_000),
    start: 0,
    from: frozenFrom(
      doc,
      doc.tracks.find((t) => t.id === 'f')!,
    ),
  });
const unfrozen = () =>
  apply(
    start(),
    { type: 'setFold', id: 'soft', name: 'Soft', centre: 1, surround: 0.5, lfe: 0.25 },
    { type: 'setFold', id: 'loud', name: 'Loud', centre: 1, surround: 1, lfe: 1 },
    { type: 'addBus', kind: 'bus', id: 'one', name: 'One L', layout: 'mono' },
    { type: 'addBus', kind: 'bus', id: 'two', name: 'One R', layout: 'mono' },
    { type: 'addTrack', id: 'f', name: 'Foghorn', layout: 'mono', destination: 'efx' },
    { type: 'addClip', id: 'cf', track: 'f', start: 0, media: media('mf') },
    { type: 'addClip', id: 'cl', track: 'a', start: 0, media: media('loose', 900) },
    { type: 'removeClip', clip: 'cl' },
    {
      type: 'addTracks',
      tracks: [{ id: 'hall', name: 'Hall', layout: 'stereo', kind: 'return', destination: 'amb' }],
    },
    { type: 'addSend', owner: 'a', id: 's1', to: 'hall' },
    { type: 'addReference', id: 'ref2', name: 'Without narration', leftOut: ['nar'] },
    {
      type: 'writeLane',
      target: { node: 'b', param: 'azimuth' },
      from: 0,
      to: 900,
      points: [
        { at: 0, value: -30, shape: 'line' },
        { at: 900, value: 30, shape: 'line' },
      ],
    },
    { type: 'addCues', cues: [{ id: 'q1', number: '1', start: 0, end: 500, character: 'Pilot', text: 'Ahoy.' }] },
    { type: 'setMarker', marker: 'k1', at: 70, name: 'Title' },
    {
      type: 'addTake',
      id: 't0',
      track: 'a',
      start: 60000,
      media: media('t0', 9000, 'take'),
      dry: null,
      chains: [[]],
      recordedAt: '2026-03-02T09:00:00Z',
      recovered: false,
    },
    { type: 'splitClip', clip: 'clip-t0', at: 64000, id: 'c0' },
    { type: 'newComp', track: 'b', id: 'k', name: 'Second', begin: 'copy' },
  );

// One of each edit, on the session above.
const EVERY: EditJson[] = [
  { type: 'addTrack', id: 'n', name: 'New', layout: '5.1', destination: null },
  { type: 'removeTrack', track: 'b' },
  { type: 'setTrack', track: 'a', level: -3, muted: true },
  { type: 'seatTrack', track: 'a', armed: true, soloed: true, hearing: 'rolling' },
  { type: 'seatBus', bus: 'dia', soloed: true },
  { type: 'placeTrack', track: 'a', placement: { azimuth: 20, distance: 0.5, width: 60, lfe: -100 } },
  { type: 'orderTracks', order: ['b', 'a', 'f'] },
  { type: 'patch', track: 'a', channel: 0, line: 'dev/1' },
  { type: 'addLine', device: 'dev', channel: 2, name: 'Third' },
  { type: 'nameLine', line: 'dev/1', name: 'Booth near' },
  { type: 'sendTracks', tracks: ['a', 'b'], destination: 'dia' },
  { type: 'sendBus', bus: 'dia', destination: 'nar' },
  { type: 'addBus', kind: 'stem', id: 's1', name: 'Bells', sources: ['b'] },
  { type: 'removeBus', bus: 'efx' },
  {
    type: 'layClips',
    track: 'a',
    clips: [{ id: 'laid', media: 'mf', name: 'Laid', start: 900_000, offset: 10, length: 50 }],
  },
  {
    ...{ type: 'bringPrintBack', version: 3 },
    rows: [
      {
        ...{ track: 'p3', name: 'Print 3: Reference', layout: 'mono' },
        clips: [{ id: 'pc', start: 480, lead: 100, media: media('mp3') }],
      },
    ],
  },
  { type: 'setPrinting', by: 'list', list: [{ id: 'r1', name: 'Reel 1', start: 0, end: 480 }], leadIn: 3, pop: 2 },
  { type: 'splitBus', bus: 'efx', ids: ['e0', 'e1', 'e2', 'e3', 'e4', 'e5'] },
  { type: 'joinBuses', buses: ['one', 'two'], id: 'pair', name: 'Pair', layout: 'stereo' },
  { type: 'setBus', bus: 'dia', level: -1, name: 'Speech' },
  { type: 'setMonitor', level: -20, dimmed: true },
  { type: 'addStage', owner: { kind: 'bus', id: 'dia' }, id: 'x', stage: 'limiter' },
  { type: 'removeStage', owner: { kind: 'line', id: 'dev/1' }, stage: 'dev/1-gate' },
  { type: 'moveStage', owner: { kind: 'line', id: 'dev/1' }, stage: 'dev/1-gate', to: 0 },
  { type: 'switchStage', owner: { kind: 'line', id: 'dev/1' }, stage: 'dev/1-compressor', on: true },
  { type: 'setStage', owner: { kind: 'line', id: 'dev/1' }, stage: 'dev/1-lowCut', values: { frequency: 90 } },
  { type: 'setStageKey', owner: { kind: 'track', id: 'a' }, stage: 'a-comp', key: 'b' },
  { type: 'addClip', id: 'c2', track: 'a', start: 90000, media: media('m2') },
  { type: 'giveClipFile', clip: 'c1', media: media('own', 700) },
  { type: 'lengthenTake', take: 't0', frames: 12_000 },
  { type: 'moveClip', clip: 'c1', start: 5000 },
  { type: 'trimClip', clip: 'c1', start: 2000, length: 3000 },
  { type: 'setClipGain', clip: 'c1', gain: -6 },
  { type: 'removeClip', clip: 'c1' },
  {
    type: 'addTake',
    id: 't1',
    track: 'a',
    start: 10000,
    media: media('t1-processed', 20000, 'take'),
    dry: media('t1-dry', 20000, 'dry'),
    chains: [[]],
    recordedAt: '2026-03-02T09:00:00Z',
    recovered: false,
  },
  { type: 'addSend', owner: 'efx', id: 's2', to: 'hall', level: -6, tap: 'before' },
  {
    type: 'setSend',
    owner: 'a',
    send: 's1',
    level: -12,
    on: false,
    placement: { azimuth: 110, distance: 1, width: 0, lfe: -100 },
  },
  { type: 'removeSend', owner: 'a', send: 's1' },
  { type: 'addReference', id: 'ref3', name: 'Music and effects', leftOut: ['dia', 'nar'] },
  {
    type: 'writeLane',
    target: { node: 'a', param: 'level' },
    from: 0,
    to: 100,
    points: [{ at: 5, value: -6, shape: 'smooth' }],
  },
  { type: 'setLane', target: { node: 'b', param: 'azimuth' }, on: false },
  { type: 'removeLane', target: { node: 'b', param: 'azimuth' } },
  { type: 'setReference', bus: 'ref', linked: { on: true, ceiling: -1, release: 80, peaks: 'true' } },
  { type: 'shapeClip', clip: 'c1', fadeIn: { frames: 100, curve: 'power' } },
  { type: 'splitClip', clip: 'c1', at: 2000, id: 'c9' },
  { type: 'slipClip', clip: 'c0', by: 10 },
  { type: 'moveJoint', clip: 'c0', at: 64100 },
  { type: 'repeatClip', clip: 'c1', times: 2, id: 'r' },
  { type: 'moveClips', clips: ['c1', 'c0'], by: 40 },
  { type: 'removeClips', clips: ['c1', 'c0'] },
  { type: 'shapeClips', clips: ['c1', 'c0'], group: 'g' },
  { type: 'copyClips', copies: [{ of: 'c1', id: 'c8', track: 'a', start: 80000 }] },
  { type: 'compRange', track: 'a', take: 't0', start: 61000, end: 62000, id: 'c7' },
  { type: 'newComp', track: 'a', id: 'k2', name: 'Third', begin: 'empty' },
  { type: 'chooseComp', track: 'b', comp: 'k' },
  { type: 'removeComp', track: 'b', comp: 'k' },
  { type: 'setPicture', file: '/demo/picture.mp4', start: 100 },
  { type: 'nameMedia', media: 'm1', name: 'Other.wav' },
  {
    type: 'freezeTrack',
    track: 'a',
    media: media('frozen-a', 96_000),
    start: 1000,
    from: frozenFrom(rich(), rich().tracks[0]!),
  },
  { type: 'thawTrack', track: 'f' },
  busEdit(rich(), 'nar'),
  { type: 'thawBus', bus: 'efx' },
  { type: 'removeMedia', media: ['loose'] },
  { type: 'setMediaOrder', media: 'loose', order: 'film' },
  { type: 'setTake', track: 'a', take: 't0', circled: true, rating: 4, note: 'warm', cue: 'q1' },
  { type: 'addCues', cues: [{ id: 'q2', number: '2', start: 600, end: 700, character: '', text: 'Aye.' }] },
  { type: 'setCue', cue: 'q1', text: 'Ahoy there.', done: true },
  { type: 'removeCues', cues: ['q1'] },
  { type: 'setMarker', marker: 'k2', at: 90, name: 'End' },
  { type: 'removeMarker', marker: 'k1' },
  { type: 'setFormat', wordLength: 16, frameRate: '24', startTimecode: '09:00:00:00' },
  { type: 'setSession', name: 'Other', code: 'OT', listening: 'loudspeakers' },
  { type: 'setRange', start: 10, end: 20 },
  { type: 'addTracks', tracks: [{ id: 'q', name: 'Q', layout: 'mono', kind: 'recording', destination: 'nar' }] },
  { type: 'repeatTrack', track: 'a', as: [{ id: 'q', name: 'Q' }] },
  { type: 'setLine', line: 'dev/1', kind: 'condenser', phantom: true, gain: 38, record: 'dry' },
  { type: 'substituteDevice', from: 'dev', to: 'other', lines: ['A', 'B'] },
  { type: 'nameTracksByLines' },
  { type: 'addDeliverable', id: 'd', bus: 'ref', layout: 'stereo', token: 'REF' },
  { type: 'setDeliverable', deliverable: 'print-nar', token: 'VOX' },
  { type: 'removeDeliverable', deliverable: 'print-nar' },
  { type: 'orderDeliverables', order: ['nar', 'ref', 'dia', 'mus', 'efx', 'amb', 'ref2'].map((b) => `print-${b}`) },
  { type: 'setLimits', limits: { name: 'A/85', target: -24, tolerance: 2, truePeak: -2 } },
  { type: 'setWork', click: 'always' },
  { type: 'setFold', id: 'soft', name: 'Softer', centre: 0.7, surround: 0.4, lfe: 0 },
  { type: 'removeFold', id: 'loud' },
  { type: 'addRoomTone', id: 'rt2', name: 'Booth', media: media('m9') },
  { type: 'nameRoomTone', tone: 'rt', name: 'Booth, empty' },
  { type: 'removeRoomTones', tones: ['rt'] },
  { type: 'fillGaps', tone: 'rt', track: 'a', start: 0, end: 100_000, id: 'f' },
  {
    type: 'setChain',
    owner: { kind: 'line', id: 'dev/1' },
    chain: [{ id: 'x', type: 'eq', on: true, values: { g1: -3 } }],
  },
  {
    type: 'copyChain',
    owner: { kind: 'line', id: 'dev/1' },
    to: [
      { kind: 'bus', id: 'dia' },
      { kind: 'track', id: 'b' },
    ],
  },
  { type: 'setDefaultDestination', layout: 'mono', destination: 'nar' },
  { type: 'setTempo', tempos: [{ beat: 0, tempo: 90, glides: false }], meters: [{ bar: 1, beats: 3, value: 4 }] },
];

describe('every edit', () => {
  it('is there', () => expect(new Set(EVERY.map((e) => e.type))).toEqual(new Set(EDIT_NAMES)));
  it.each(EVERY.map((e) => [e.type, e] as const))(
    '%s changes the session, and its inverse brings it back',
    (_, json) => {
      const doc = rich();
      const { doc: next, patches, inverse } = applyEdit(doc, readEdit(json));
      expect(next).not.toEqual(doc);
      expect(patchDoc(next, inverse)).toEqual(doc);
      expect(patchDoc(doc, patches)).toEqual(next);
      expect(JSON.parse(JSON.stringify(next))).toEqual(next);
      expect(readEdit(json).label.length).toBeGreaterThan(3);
    },
  );
});

describe('what stands in more than one place', () => {
  it('a track that is repeated gets sends of its own', () => {
    const doc = apply(rich(), {
      type: 'repeatTrack',
      track: 'a',
      as: [
        { id: 'q', name: 'Q' },
        { id: 'r', name: 'R' },
      ],
    });
    const sends = doc.tracks.flatMap((t) => t.sends);
    expect(sends.map((s) => s.to)).toEqual(['hall', 'hall', 'hall']);
    expect(new Set(sends.map((s) => s.id)).size).toBe(3);
  });
  it('a bus that is removed leaves no send, key, default or left-out stem behind', () => {
    const doc = apply(
      rich(),
      { type: 'setDefaultDestination', layout: 'mono', destination: 'nar' },
      { type: 'setStageKey', owner: { kind: 'track', id: 'a' }, stage: 'a-comp', key: 'efx' },
      { type: 'removeBus', bus: 'nar' },
      { type: 'removeBus', bus: 'hall' },
      { type: 'removeBus', bus: 'efx' },
    );
    const text = JSON.stringify({ ...doc, deliverables: [] });
    for (const id of ['nar', 'hall', 'efx']) expect(text).not.toContain(`"${id}"`);
  });
  it('two versions that differ in sends, trims or references are told apart', () => {
    const before = rich();
    const after = apply(
      before,
      { type: 'setSend', owner: 'a', send: 's1', level: -9 },
      { type: 'addSend', owner: 'b', id: 's5', to: 'hall' },
      { type: 'setBus', bus: 'hall', rooms: 'each stem', trim: -2 },
      { type: 'setReference', bus: 'ref', linked: { on: true, ceiling: -1, release: 80, peaks: 'true' } },
      { type: 'setReference', bus: 'ref2', leftOut: [] },
    );
    expect(changesBetween(before, after)).toEqual([
      'the send of Narrator to Hall changed',
      'Boat sends to Hall',
      'Hall is trimmed by -2.0 dB instead of 0.0',
      'Hall has a room for each stem',
      'the stems of Reference are limited together differently',
      'Without narration is made of other stems',
    ]);
    expect(changesBetween(after, before)).toContain('Boat has no send to Hall any more');
  });
});

describe('nonsense is refused with a sentence and changes nothing', () => {
  const bad: [string, unknown, RegExp][] = [
    ['no edit of that name', { type: 'explode' }, /no edit "explode"/],
    ['no name at all', 42, /no edit/],
    ['a name from the prototype', { type: 'constructor' }, /no edit "constructor"/],
    ['a member too many', { type: 'setRange', start: 0, end: 5, drop: true }, /drop should not exist/],
    [
      'a level that is a word',
      { type: 'setTrack', track: 'a', level: 'loud' },
      /level goes from -100 to 24 dB, not to loud/,
    ],
    ['a level out of range', { type: 'setTrack', track: 'a', level: 99 }, /level goes from -100 to 24 dB, not to 99/],
    ['a track that is gone', { type: 'setTrack', track: 'z', level: 0 }, /That track is not in the session/],
    [
      'a stage value out of its limits',
      { type: 'setStage', owner: { kind: 'line', id: 'dev/1' }, stage: 'dev/1-lowCut', values: { frequency: 5 } },
      /Frequency goes from 20 to 400 Hz/,
    ],
    [
      'a stage that does not exist',
      { type: 'addStage', owner: { kind: 'bus', id: 'dia' }, id: 'q', stage: 'magic' },
      /no stage "magic"/,
    ],
    [
      'a key that comes out of the chain itself',
      { type: 'setStageKey', owner: { kind: 'track', id: 'a' }, stage: 'a-comp', key: 'nar' },
      /run in a circle/,
    ],
    ['a range that ends before it starts', { type: 'setRange', start: 9, end: 3 }, /must end after/],
    ['a channel the track has not', { type: 'patch', track: 'a', channel: 1, line: 'dev/1' }, /has no channel 2/],
    [
      'a stem without a name of its own',
      { type: 'addBus', kind: 'stem', id: 's', name: 'dialogue', sources: [] },
      /already/,
    ],
    [
      'a file of another width',
      { type: 'addClip', id: 'q', track: 'b', start: 0, media: media('m9') },
      /has 1 channels, Boat is stereo/,
    ],
    ['trimming beyond the file', { type: 'trimClip', clip: 'c1', start: 0, length: 60000 }, /no more sound/],
    ['another rate with material there', { type: 'setFormat', sampleRate: 96000 }, /holds 2 files at 48000 Hz/],
    [
      'a start timecode that does not exist',
      { type: 'setFormat', startTimecode: '10:00:00:30' },
      /count from 00 to 24/,
    ],
    [
      'a send that closes a circle',
      { type: 'addSend', owner: 'ref', id: 'q', to: 'dia' },
      /Reference to Dialogue would run in a circle: Dialogue → Reference → Dialogue/,
    ],
    ['a send to itself', { type: 'addSend', owner: 'dia', id: 'q', to: 'dia' }, /cannot be sent to itself/],
    [
      'a place for a wide bus',
      { type: 'setBus', bus: 'dia', placement: { azimuth: 0, distance: 1, width: 0, lfe: 0 } },
      /speaker by speaker/,
    ],
    ['rooms of a stem', { type: 'setBus', bus: 'dia', rooms: 'each stem' }, /is no return/],
    ['linked limiting of a stem', { type: 'setReference', bus: 'dia', linked: null }, /is no reference/],
    ['leaving out what is no stem', { type: 'setReference', bus: 'ref', leftOut: ['ref'] }, /is no stem/],
    ['removing the reference', { type: 'removeBus', bus: 'ref' }, /reference stays/],
  ];
  it.each(bad)('%s', (_, json, message) => {
    const doc = start();
    const before = JSON.stringify(doc);
    const attempt = () => applyEdit(doc, readEdit(json));
    expect(attempt).toThrow(message);
    expect(attempt).toThrow(EditRefused);
    expect(JSON.stringify(doc)).toBe(before);
  });
  it('the same line twice on one track', () => {
    const doc = apply(start(), { type: 'patch', track: 'b', channel: 0, line: 'dev/1' });
    expect(() => apply(doc, { type: 'patch', track: 'b', channel: 1, line: 'dev/1' })).toThrow(/a line of its own/);
  });
});

describe('takes', () => {
  const take = (id: string, at: number, frames: number): EditJson => ({
    type: 'addTake',
    id,
    track: 'a',
    start: at,
    media: media(`${id}-processed`, frames, 'take'),
    dry: null,
    chains: [[]],
    recordedAt: '2026-03-02T09:00:00Z',
    recovered: false,
  });
  it('stand on top: clips under them give way and lose nothing', () => {
    const doc = apply(start(), take('t1', 11000, 10000));
    const [left, fresh, right] = doc.tracks[0]!.clips;
    expect([left!.start, left!.length]).toEqual([1000, 10000]);
    expect([fresh!.start, fresh!.length]).toEqual([11000, 10000]);
    expect([right!.start, right!.offset, right!.length]).toEqual([21000, 20000, 28000]);
  });
  it('taken back, leave the clips as they were; the take can be brought forward again', () => {
    const before = start();
    const { doc, inverse } = applyEdit(before, readEdit(take('t1', 11000, 10000)));
    expect(patchDoc(doc, inverse)).toEqual(before);
  });
  it('take their number from the file, and a recovered one can grow', () => {
    const doc = apply(start(), take('t7', 60000, 1000), { type: 'lengthenTake', take: 't7', frames: 2500 });
    const track = doc.tracks[0]!;
    expect(track.takes[0]).toMatchObject({ number: 1, length: 2500 });
    expect(track.clips.at(-1)!.length).toBe(2500);
    expect(doc.media['t7-processed']!.frames).toBe(2500);
  });
});

describe('stems', () => {
  it('a new one takes the next colour, free letters and a file of its own, and the track at once', () => {
    const doc = apply(start(), { type: 'addBus', kind: 'stem', id: 's1', name: 'Dials', sources: ['a'] });
    const stem = doc.buses.find((b) => b.id === 's1')!;
    expect(stem).toMatchObject({ kind: 'stem', hue: 5, destination: 'ref' });
    expect(doc.buses.filter((b) => b.code === stem.code)).toHaveLength(1);
    expect(new Set(doc.deliverables.map((d) => d.token)).size).toBe(doc.deliverables.length);
    expect(doc.tracks[0]!.destination).toBe('s1');
  });
  it('a removed one hands its sources on', () => {
    const doc = apply(start(), { type: 'removeBus', bus: 'nar' });
    expect(doc.tracks[0]!.destination).toBe('ref');
    expect(doc.deliverables.some((d) => d.bus === 'nar')).toBe(false);
  });
  it('know their path and its loops', () => {
    const doc = apply(start(), { type: 'sendBus', bus: 'dia', destination: 'nar' });
    expect(pathFrom(doc, 'dia').map((b) => b.id)).toEqual(['dia', 'nar', 'ref']);
    expect(wouldLoop(doc, 'nar', 'dia')).toBe(true);
    expect(wouldLoop(doc, 'dia', 'ref')).toBe(false);
  });
});
