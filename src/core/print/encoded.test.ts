// Files that are encoded into two channels, and brought back: measured on the print.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { samplesOf } from '../../../tests/support/files';
import { printed, readerOf } from '../../../tests/support/printed';
import { applied, sessionWith } from '../../../tests/support/session';
import { fileCheck } from '@/core/checks';
import { compilePlan, Engine, HEARD_AS, type HeardAs } from '@/core/engine';
import { fourInTwoCrosstalk } from '@/core/matrix';
import type { EditJson, SessionDoc } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const FRAMES = 96_000;
const sound = noise(FRAMES, 0.3, 11);

/** A session whose one track has sound in one of its channels only. */
function session(
  layout: LayoutId,
  channel: number,
  sounds: Record<string, Float32Array[]>,
  ...edits: EditJson[]
): SessionDoc {
  const width = layoutOf(layout).speakers.length;
  sounds.four = Array.from({ length: width }, (_, c) => (c === channel ? sound : new Float32Array(FRAMES)));
  return sessionWith(
    { type: 'setFormat', layout },
    { type: 'addTrack', id: 'four', name: 'Four', layout, destination: 'amb' },
    {
      ...{ type: 'addClip', id: 'c', track: 'four', start: 0 },
      media: { id: 'four', name: 'four.wav', channels: width, frames: FRAMES, sampleRate: 48_000, kind: 'file' },
    },
    { type: 'addDeliverable', id: 'two', bus: 'ref', layout: 'stereo', token: 'TWO' },
    ...edits,
  );
}

async function two(doc: SessionDoc, sounds: Record<string, Float32Array[]>): Promise<Float32Array[]> {
  const { bytes } = await printed(k, doc, readerOf(sounds), { end: FRAMES });
  return samplesOf(k, new MemorySource(bytes.get('two')!));
}

// Ends of the turn by 90 degrees are left out: they ring.
const middle = (x: Float32Array) => x.subarray(12_000, FRAMES - 12_000);
const rms = (x: Float32Array) => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / x.length);
const db = (x: Float32Array, of: Float32Array) => 20 * Math.log10(rms(middle(x)) / rms(middle(of)));
const FOUR: EditJson = { type: 'setDeliverable', deliverable: 'two', encode: 'four-in-two' };

describe('four in two, printed', () => {
  // Regular matrix, values from memory: 0.924 and 0.383, that is -0.69 and -8.34 dB.
  it.each([
    ['L', 0, [-0.69, -8.34]],
    ['R', 1, [-8.34, -0.69]],
    ['Ls', 2, [-0.69, -8.34]],
    ['Rs', 3, [-8.34, -0.69]],
  ] as const)('%s stands in both as the matrix says', async (_, channel, levels) => {
    const sounds = {};
    const out = await two(session('quad', channel, sounds, FOUR), sounds);
    expect(out).toHaveLength(2);
    levels.forEach((level, c) => expect(db(out[c]!, sound)).toBeCloseTo(level, 1));
  });
  it('decoded again on a quad bus: neighbours 3 dB apart, opposite corners gone, measured on the print', async () => {
    for (let channel = 0; channel < 4; channel++) {
      const sounds: Record<string, Float32Array[]> = {};
      const carried = await two(session('quad', channel, sounds, FOUR), sounds);
      const back: Record<string, Float32Array[]> = { carried };
      const media = {
        id: 'carried',
        name: 'carried.wav',
        channels: 2,
        frames: FRAMES,
        sampleRate: 48_000,
        kind: 'file',
      } as const;
      const doc = sessionWith(
        { type: 'setFormat', layout: 'quad' },
        { type: 'addTrack', id: 'in', name: 'In', layout: 'stereo', destination: 'amb' },
        { type: 'placeTrack', track: 'in', placement: { azimuth: 0, distance: 1, width: 90, lfe: -100 } },
        { type: 'addClip', id: 'c', track: 'in', start: 0, media },
        { type: 'addStage', owner: { kind: 'bus', id: 'amb' }, id: 'd', stage: 'fourDecoder' },
      );
      const { of } = await printed(k, doc, readerOf(back), { end: FRAMES });
      const four = await samplesOf(k, of('amb'));
      fourInTwoCrosstalk()[channel]!.forEach((level, c) => {
        const measured = db(four[c]!, sound);
        if (level === -Infinity) expect(measured).toBeLessThan(-40);
        else expect(measured).toBeCloseTo(level, 1);
      });
    }
  });
});

describe('Lt/Rt, printed', () => {
  // ATSC A/52 (from memory): centre at 0.7071 in both, surrounds at 0.7071 turned against each other, no LFE.
  it.each([
    ['C', 2, -3.01, 1],
    ['Ls', 4, -3.01, -1],
  ] as const)('%s: %f dB in both, alike or turned over', async (_, channel, level, sign) => {
    const sounds = {};
    const doc = session('5.1', channel, sounds, { type: 'setDeliverable', deliverable: 'two', encode: 'lt-rt' });
    const [l, r] = await two(doc, sounds);
    for (const c of [l!, r!]) expect(db(c, sound)).toBeCloseTo(level, 1);
    expect(middle(l!).every((v, i) => Math.abs(v - sign * middle(r!)[i]!) < 1e-6)).toBe(true);
  });
  it('leaves the LFE out', async () => {
    const sounds = {};
    const doc = session('5.1', 3, sounds, { type: 'setDeliverable', deliverable: 'two', encode: 'lt-rt' });
    for (const c of await two(doc, sounds)) expect(rms(c)).toBe(0);
  });
});

describe('coefficients of one’s own', () => {
  const set: EditJson = { type: 'setFold', id: 'soft', name: 'Soft', centre: 1, surround: 0.5, lfe: 0.25 };
  it('fold the file that asks for them, and no other', async () => {
    for (const [channel, gain] of [
      [2, 1],
      [4, 0.5],
      [3, 0.25],
    ] as const) {
      const sounds = {};
      const doc = session('5.1', channel, sounds, set, { type: 'setDeliverable', deliverable: 'two', fold: 'soft' });
      const [l] = await two(doc, sounds);
      expect(db(l!, sound)).toBeCloseTo(20 * Math.log10(gain), 1);
    }
  });
  it('are kept while a file is folded by them, and have names of their own', () => {
    const doc = session('5.1', 0, {}, set, { type: 'setDeliverable', deliverable: 'two', fold: 'soft' });
    expect(() => applied(doc, { type: 'removeFold', id: 'soft' })).toThrow(/TWO is folded by Soft/);
    expect(() => applied(doc, { ...set, id: 'other' })).toThrow(/coefficients called Soft already/);
    const free = applied(
      doc,
      { type: 'setDeliverable', deliverable: 'two', fold: null },
      { type: 'removeFold', id: 'soft' },
    );
    expect(free.folds).toEqual([]);
    expect(() => applied(free, { type: 'setDeliverable', deliverable: 'two', fold: 'soft' })).toThrow(
      /not in the session/,
    );
  });
});

describe('what is listened to is what is printed', () => {
  const heard = (doc: SessionDoc, heardAs: HeardAs): Float32Array[] => {
    const engine = new Engine(k, 512);
    const seat = { ...doc, monitor: { level: 0, dimmed: false, muted: false } };
    engine.load(compilePlan(k, seat, { mode: 'live', heardAs }));
    const out = Array.from({ length: 2 }, () => new Float32Array(24_576));
    for (let at = 0; at < 24_576; at += 512) {
      engine.begin(512);
      engine
        .node('four')
        .buffer.view(4, 512)
        .set(sound.subarray(at, at + 512));
      engine.run(512);
      const { buffer } = engine.node(HEARD_AS);
      out.forEach((c, i) => c.set(buffer.view(i, 512), at));
    }
    return out;
  };
  it.each([
    ['stereo', { as: 'layout', layout: 'stereo' }, {}],
    [
      'own coefficients',
      { as: 'layout', layout: 'stereo', fold: { centre: 1, surround: 0.5, lfe: 0.25 } },
      { fold: 'soft' },
    ],
    ['Lt/Rt', { as: 'lt-rt' }, { encode: 'lt-rt' }],
    ['four in two', { as: 'four', way: 'encoded' }, { encode: 'four-in-two' }],
  ] as [string, HeardAs, object][])('%s', async (_, heardAs, asked) => {
    const sounds = {};
    const doc = session(
      ...(['5.1', 4, sounds] as const),
      { type: 'setFold', id: 'soft', name: 'Soft', centre: 1, surround: 0.5, lfe: 0.25 },
      { type: 'setDeliverable', deliverable: 'two', wordLength: 32, ...asked },
    );
    const print = await two(doc, sounds);
    const live = heard(doc, heardAs);
    // A print takes the delay of the encoder out.
    const plan = compilePlan(k, doc, { mode: 'live', heardAs });
    const late = plan.nodes.find((n) => n.id === HEARD_AS)!.lead;
    print.forEach((c, i) => {
      const n = 20_000;
      expect(
        Buffer.compare(Buffer.from(c.slice(0, n).buffer), Buffer.from(live[i]!.slice(late, late + n).buffer)),
      ).toBe(0);
    });
  });
});

describe('an encoding', () => {
  it('is refused where there is nothing to encode, or not two channels to hold it', () => {
    expect(() =>
      session('5.1', 0, {}, { type: 'setDeliverable', deliverable: 'two', layout: 'lcr', encode: 'lt-rt' }),
    ).toThrow(/so it is in stereo/);
    expect(() => session('stereo', 0, {}, FOUR)).toThrow(/nothing to encode|no more than two channels/);
  });
  it('that is lost with the layout of the mix stops the print, with a mend', () => {
    const doc = applied(session('5.1', 0, {}, FOUR), { type: 'setFormat', layout: 'stereo' });
    const [check] = fileCheck(doc).filter((c) => c.id === 'encode/two');
    expect(check).toMatchObject({ grade: 'stop', title: 'TWO cannot be encoded from stereo' });
    const mended = applied(doc, ...check!.mends[0]!.edits);
    expect(fileCheck(mended).some((c) => c.id.startsWith('encode/'))).toBe(false);
  });
});
