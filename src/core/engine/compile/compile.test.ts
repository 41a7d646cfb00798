import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../../tests/support/session';
import { newKernels } from '../../../../tests/support/kernels';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { MONITOR } from '@/core/paths';
import { AUDITION, EARS, foldNode, type Plan } from '../plan';
import { sourceGains } from '../gainsBetween';
import { chainDelay, compilePlan } from '.';

const k = newKernels();
const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const session = (...edits: EditJson[]) =>
  apply(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'addTrack', id: 'voice', name: 'Voice', layout: 'mono', destination: 'nar' },
    { type: 'addTrack', id: 'pair', name: 'Pair', layout: 'stereo', destination: 'efx' },
    { type: 'addTrack', id: 'surf', name: 'Surf', layout: '5.1', destination: 'amb' },
    { type: 'addLine', device: 'dev', channel: 0, name: 'One' },
    { type: 'addLine', device: 'dev', channel: 1, name: 'Two' },
    ...edits,
  );
const node = (plan: Plan, id: string) => plan.nodes.find((n) => n.id === id);
const live = (doc: SessionDoc, rolling = false) => compilePlan(k, doc, { mode: 'live', rolling });

describe('lines in the plan', () => {
  const patched: EditJson[] = [
    { type: 'patch', track: 'voice', channel: 0, line: 'dev/1' },
    { type: 'patch', track: 'pair', channel: 1, line: 'dev/2' },
  ];
  it('are there when they are patched, each with its chain', () => {
    expect(node(live(session()), 'dev/1')).toBeUndefined();
    expect(node(live(session(...patched)), 'dev/1')!.chain.map((s) => s.type)).toEqual([
      'lowCut',
      'gate',
      'compressor',
    ]);
    expect(node(compilePlan(k, session(...patched), { mode: 'print' }), 'dev/1')).toBeUndefined();
  });
  const heard = (hearing: 'never' | 'armed' | 'rolling', armed: boolean, rolling: boolean) =>
    node(live(session(...patched, { type: 'seatTrack', track: 'voice', hearing, armed }), rolling), 'dev/1')!.links
      .length > 0;
  it.each([
    ['never', true, true, false],
    ['armed', false, false, false],
    ['armed', true, false, true],
    ['rolling', true, false, false],
    ['rolling', true, true, true],
  ] as const)('are heard as the track says: %s, armed %s, rolling %s: %s', (hearing, armed, rolling, expected) => {
    expect(heard(hearing, armed, rolling)).toBe(expected);
  });
  it('reach the very channel they are patched to', () => {
    const plan = live(session(...patched, { type: 'seatTrack', track: 'pair', armed: true }));
    expect(node(plan, 'dev/2')!.links).toMatchObject([{ to: 'pair', gains: [[0, 1, 1]], delay: 0 }]);
  });
});

describe('destinations in the plan', () => {
  it('a mono source is placed, a stereo source stands apart, a wide one goes by speaker', () => {
    const doc = session({
      type: 'placeTrack',
      track: 'voice',
      placement: { azimuth: 110, distance: 1, width: 60, lfe: -100 },
    });
    const gains = (id: string) =>
      sourceGains(
        k,
        doc.tracks.find((t) => t.id === id)!,
        '5.1',
      );
    expect(gains('voice')[0]!.map((g) => Math.round(g * 1e6) / 1e6)).toEqual([0, 0, 0, 0, 1, 0]);
    expect(gains('pair').map((row) => row.findIndex((g) => g > 0.999))).toEqual([0, 1]);
    expect(gains('surf').map((row) => row.indexOf(1))).toEqual([0, 1, 2, 3, 4, 5]);
  });
  it('nowhere has no link, the monitor only when live', () => {
    const nowhere = session({ type: 'sendTracks', tracks: ['voice'], destination: null });
    expect(node(live(nowhere), 'voice')!.links).toEqual([]);
    const monitor = session({ type: 'sendTracks', tracks: ['voice'], destination: 'monitor' });
    expect(node(live(monitor), 'voice')!.links[0]!.to).toBe('monitor');
    expect(node(compilePlan(k, monitor, { mode: 'print' }), 'voice')!.links).toEqual([]);
  });
  it('the monitor is folded down to two ears; dim takes 20 dB', () => {
    const plan = live(session({ type: 'setMonitor', level: 0, dimmed: true }));
    expect(node(plan, 'monitor')!.gain).toBeCloseTo(0.1, 9);
    expect(node(plan, 'monitor')!.links[0]).toMatchObject({ to: 'ears' });
    expect(node(plan, 'ears')!.channels).toBe(2);
    expect(node(live(session({ type: 'setMonitor', muted: true })), 'monitor')!.gain).toBe(0);
  });
  it('a narrower deliverable gets a node of its own in a print', () => {
    const doc = session();
    const wide = {
      ...doc,
      deliverables: [...doc.deliverables, { id: 'lo', bus: 'ref', layout: 'stereo' as const, token: 'REF' }],
    };
    const plan = compilePlan(k, wide, { mode: 'print' });
    expect(node(plan, foldNode('lo'))).toMatchObject({ kind: 'fold', channels: 2 });
    expect(node(live(wide), foldNode('lo'))).toBeUndefined();
  });
});

describe('delay in the plan', () => {
  const limited: EditJson[] = [
    { type: 'addStage', owner: { kind: 'track', id: 'voice' }, id: 'l1', stage: 'limiter' },
    { type: 'addStage', owner: { kind: 'bus', id: 'amb' }, id: 'l2', stage: 'limiter' },
  ];
  it('is the sum of a chain’s stages', () => {
    const doc = session(...limited, {
      type: 'addStage',
      owner: { kind: 'track', id: 'voice' },
      id: 'l3',
      stage: 'limiter',
    });
    expect(chainDelay(doc.tracks[0]!.chain, 48000)).toBe(142);
    expect(chainDelay(doc.tracks[1]!.chain, 48000)).toBe(0);
  });
  it('is made good on every other path', () => {
    const plan = compilePlan(k, session(...limited), { mode: 'print' });
    // Both the narration (by its track) and the ambience (by its bus) are 71 late: the effects wait.
    expect(node(plan, 'efx')!.links[0]!.delay).toBe(71);
    expect(node(plan, 'nar')!.links[0]!.delay).toBe(0);
    expect(node(plan, 'amb')!.links[0]!.delay).toBe(0);
    expect(node(plan, 'ref')!.lead).toBe(71);
  });
  it('stays when the limiter is bypassed', () => {
    const plan = compilePlan(
      k,
      session(...limited, { type: 'switchStage', owner: { kind: 'bus', id: 'amb' }, stage: 'l2', on: false }),
      { mode: 'print' },
    );
    expect(node(plan, 'amb')!.lead).toBe(71);
  });
});

describe('the click', () => {
  const audition = (doc: SessionDoc) => node(live(doc), AUDITION)!;
  const gains = (doc: SessionDoc) => audition(doc).links.map((l) => l.gains);
  it('is heard in front, or from the loudspeaker that was chosen', () => {
    expect(gains(session())).toEqual([[[0, 2, 1]]]);
    expect(gains(session({ type: 'setWork', clickTo: 'Ls' }))).toEqual([[[0, 4, 1]]]);
    const half = Math.SQRT1_2;
    const stereo: EditJson[] = [{ type: 'setFormat', layout: 'stereo' }];
    expect(gains(session(...stereo))).toEqual([
      [
        [0, 0, half],
        [0, 1, half],
      ],
    ]);
    // A loudspeaker that is gone leaves it in front; the choice stays for when it is back.
    expect(gains(session({ type: 'setWork', clickTo: 'Ls' }, ...stereo))).toEqual(gains(session(...stereo)));
  });
  it('leads to the monitor only, which leads to ears and ports only: nothing of it is in a print', () => {
    const plan = live(session({ type: 'setWork', click: 'always', clickTo: 'L' }));
    expect(node(plan, AUDITION)!.links.map((l) => l.to)).toEqual([MONITOR]);
    expect(node(plan, MONITOR)!.links.map((l) => l.to)).toEqual([EARS]);
    expect(node(plan, EARS)!.links).toEqual([]);
    const print = compilePlan(k, session({ type: 'setWork', click: 'always' }), { mode: 'print' });
    expect(print.nodes.filter((n) => [AUDITION, MONITOR, EARS].includes(n.id))).toEqual([]);
  });
});
