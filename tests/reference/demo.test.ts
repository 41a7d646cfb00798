// The demo must be worth listening to: whole, repeatable, without faults in its session.
import { stemOfTrack } from '@/core/paths';
import { describe, expect, it } from 'vitest';
import { demoClips, demoSession, SECONDS } from '../../demo/scenario';
import { lineSounds } from '../../demo/lineSounds';
import { CHARACTERS, SCRIPT } from '../../demo/script';
import { domeClips, domeSession } from '../../demo/dome';
import { clockwork, rain } from '../../demo/sounds/dome';
import { bell, boat, foghorn, ropes } from '../../demo/sounds/harbour';
import { drone, pad } from '../../demo/sounds/music';
import { gulls, surf, wind } from '../../demo/sounds/sea';
import { pathAudit, printCheck } from '@/core/checks';

import { STANDINS } from '@/standins';
import { newKernels } from '../support/kernels';

const k = newKernels();
const peak = (c: Float32Array) => c.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

const SOUNDS: [string, number, number, () => Float32Array[]][] = [
  ['surf', 6, -13, () => surf(8)],
  ['wind', 2, -24, () => wind(8)],
  ['gulls', 2, -22, () => gulls(8)],
  ['foghorn', 1, -9, foghorn],
  ['boat', 2, -14, () => boat(8)],
  ['ropes', 1, -18, () => ropes(8)],
  ['bell', 1, -16, () => bell(8)],
  ['pad', 2, -15, () => pad(10)],
  ['drone', 1, -16, () => drone(14)],
  ['rain', 12, -21, () => rain(8)],
  ['clockwork', 1, -12, () => clockwork(8)],
];

describe('generated sounds', () => {
  it.each(SOUNDS)(
    '%s: %i channels, peak at %i dBFS, without a faulty sample, the same each time',
    (_, channels, level, make) => {
      const a = make();
      expect(a).toHaveLength(channels);
      for (const c of a) expect(c.every(Number.isFinite)).toBe(true);
      expect(20 * Math.log10(Math.max(...a.map(peak)))).toBeCloseTo(level, 2);
      const b = make();
      a.forEach((c, i) => expect(Buffer.compare(Buffer.from(c.buffer), Buffer.from(b[i]!.buffer))).toBe(0));
    },
  );
  it('surf differs from speaker to speaker', () => {
    const channels = surf(4);
    for (let c = 1; c < 6; c++) expect(channels[c]).not.toEqual(channels[0]);
  });
});

describe('spoken lines', () => {
  it('are all there, in range, without direct current', async () => {
    const lines = await lineSounds(k);
    expect([...lines.keys()].sort((a, b) => a - b)).toEqual(SCRIPT.map((_, i) => i));
    for (const samples of lines.values()) {
      expect(samples.length).toBeGreaterThan(48_000);
      expect(20 * Math.log10(peak(samples))).toBeCloseTo(-8, 0);
      expect(Math.abs(samples.reduce((s, v) => s + v, 0) / samples.length)).toBeLessThan(1e-4);
    }
  });
  it('follow each other without talking over their own character', async () => {
    const lines = await lineSounds(k);
    for (const character of CHARACTERS) {
      const own = SCRIPT.map((l, i) => ({ ...l, end: l.at + lines.get(i)!.length / 48_000 })).filter(
        (l) => l.character === character,
      );
      own.slice(1).forEach((l, i) => expect(l.at).toBeGreaterThanOrEqual(own[i]!.end));
      expect(own.at(-1)!.end).toBeLessThan(SECONDS);
    }
  });
});

describe('the demo session', () => {
  const clips = demoClips(new Map(SCRIPT.map((_, i) => [i, new Float32Array(48_000)])));
  const doc = demoSession(clips.map((c) => ({ ...c, media: c.file, frames: 48_000, channels: 1 })));
  it('has twelve tracks, each in a stem, and no finding', () => {
    expect(doc.tracks).toHaveLength(12);
    expect(doc.tracks.every((t) => stemOfTrack(doc, t.destination))).toBe(true);
    expect(pathAudit(doc)).toEqual([]);
    expect(printCheck(doc)).toEqual([]);
  });
  it('has a group, a return with a room for each of its stems, two references, and levels in time', () => {
    expect(doc.buses.find((b) => b.id === 'harbour')).toMatchObject({ kind: 'bus', destination: 'efx' });
    expect(doc.buses.find((b) => b.id === 'air')).toMatchObject({ kind: 'return', rooms: 'each stem' });
    expect(doc.buses.find((b) => b.id === 'mne')).toMatchObject({ kind: 'reference', leftOut: ['nar'] });
    expect(doc.buses.find((b) => b.id === 'ref')!.linked).toMatchObject({ on: true, ceiling: -1 });
    expect(Object.keys(doc.lanes).sort()).toEqual(['pad level', 'surf level']);
  });
  it('uses all five stems, and 5.1 for the ambience', () => {
    expect(new Set(doc.tracks.map((t) => stemOfTrack(doc, t.destination)!.id)).size).toBe(5);
    expect(doc.tracks.find((t) => t.id === 'surf')!.layout).toBe('5.1');
  });
  it('has clips on known tracks, within the ninety seconds', () => {
    for (const c of clips) {
      expect(
        doc.tracks.some((t) => t.id === c.track),
        c.file,
      ).toBe(true);
      expect(c.at).toBeLessThan(SECONDS);
    }
    expect(new Set(clips.map((c) => c.file)).size).toBe(clips.length);
  });
  it('has its recording tracks patched to lines that a stand-in has', () => {
    const patched = doc.tracks.filter((t) => t.inputs.some(Boolean));
    expect(patched.map((t) => t.id)).toEqual(['narrator', 'pilot', 'apprentice']);
    for (const line of doc.lines) {
      const device = STANDINS.find((s) => s.id === line.device)!;
      expect(device.lines[line.channel]!.name).toBe(line.name);
    }
  });
});

describe('the session for the dome', () => {
  it('is in 7.1.4, leads every source to a stem, and stands in height', async () => {
    const lines = await lineSounds(k);
    const clips = domeClips(lines).map((c) => {
      const channels = c.sound();
      return { ...c, media: c.file, frames: channels[0]!.length, channels: channels.length };
    });
    const doc = domeSession(clips);
    expect(doc.format.layout).toBe('7.1.4');
    expect(doc.deliverables.filter((d) => d.bus === 'ref').map((d) => d.layout)).toEqual(['7.1.4', '5.1', 'stereo']);
    for (const t of doc.tracks) expect(stemOfTrack(doc, t.destination), t.name).toBeDefined();
    expect([...pathAudit(doc), ...printCheck(doc)].filter((c) => c.grade !== 'note')).toEqual([]);
    expect(doc.tracks.filter((t) => (t.placement.elevation ?? 0) > 0).length).toBeGreaterThanOrEqual(3);
    for (const t of doc.tracks) for (const c of t.clips) expect(c.start + c.length).toBeLessThanOrEqual(doc.range.end);
  });
});

describe('stand-ins', () => {
  it('are a microphone, an interface, a loop cable, a room, a console and two stage boxes, all under full scale', () => {
    expect(STANDINS.map((s) => s.lines.length)).toEqual([1, 8, 2, 1, 16, 8, 32, 32]);
    for (const line of STANDINS.flatMap((s) => s.lines)) {
      expect(line.gain).toBeLessThanOrEqual(0);
      expect(line.noise).toBeLessThan(-50);
    }
  });
});
