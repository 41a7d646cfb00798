import { describe, expect, it } from 'vitest';
import { applied, sessionWith } from '../../../tests/support/session';
import type { EditJson } from '@/core/session';
import { allChecks, beforeRecording, networkCheck, secondsToClick, type Live, type NetworkFacts } from '.';

const doc = sessionWith(
  { type: 'addTrack', id: 'n', name: 'Narrator', layout: 'mono', destination: 'nar' },
  { type: 'addLine', device: 'desk', channel: 2, name: 'Booth direct' },
  { type: 'patch', track: 'n', channel: 0, line: 'desk/3' },
);
const armed = applied(doc, { type: 'seatTrack', track: 'n', armed: true });
const facts = (part: Partial<NetworkFacts> = {}): NetworkFacts => ({
  device: 'desk',
  name: 'The desk',
  links: [true, true],
  free: false,
  ppm: 0,
  margin: 300,
  slips: 0,
  off: [],
  ...part,
});
const live = (part: Partial<NetworkFacts> = {}): Live => ({
  lines: new Map([['desk/3', -12]]),
  networks: [facts(part)],
});
const codes = (d: typeof doc, part: Partial<NetworkFacts>) =>
  networkCheck(d, live(part)).map((c) => [c.id.split('/')[0], c.grade]);

describe('checks on the network', () => {
  it('say nothing while both links carry and the clock follows', () => {
    expect(codes(doc, {})).toEqual([]);
  });
  it('say nothing of a device that no track uses', () => {
    expect(codes(sessionWith(), { links: [false, false] })).toEqual([]);
  });
  it('warn when one link is down, stop an armed track when both are', () => {
    expect(codes(armed, { links: [true, false] })).toEqual([['link-down', 'warn']]);
    expect(codes(doc, { links: [false, false] })).toEqual([['links-down', 'warn']]);
    expect(codes(armed, { links: [false, false] })).toEqual([['links-down', 'stop']]);
  });
  it('tell a free clock with its drift and when it will click', () => {
    const [check] = networkCheck(doc, live({ free: true, ppm: 40, margin: 288 }));
    expect(check!.title).toContain('+40.0 ppm');
    // 40 ppm of 48 kHz are 1.92 samples a second: 288 samples last 150 s.
    expect(secondsToClick(288, 40, 48000)).toBeCloseTo(150, 9);
    expect(check!.why).toContain('3 min');
  });
  it('tell a feed that is switched off, and stop an armed track that takes it', () => {
    expect(codes(doc, { off: ['desk/3'] })).toEqual([['feed-off', 'warn']]);
    expect(codes(armed, { off: ['desk/3'] })).toEqual([['feed-off', 'stop']]);
    expect(codes(armed, { off: ['desk/9'] })).toEqual([]);
  });
  it('stand beside the roll check before recording, and among all checks', () => {
    const asked = beforeRecording(armed, live({ off: ['desk/3'] }));
    expect(asked[0]!.id).toBe('feed-off/desk');
    expect(allChecks(doc, live({ links: [true, false] })).map((c) => c.id)).toContain('link-down/desk');
  });
});

describe('before recording', () => {
  const before = (d: typeof doc, more: Partial<Live>) =>
    beforeRecording(d, { lines: new Map([['desk/3', -12]]), ...more }).map((c) => `${c.id} ${c.grade}`);
  it('a device at another rate is told', () => {
    expect(before(armed, { rates: new Map([['desk', 44100]]) })).toContain('device-rate/desk warn');
    expect(
      before(armed, {
        rates: new Map([
          ['desk', 48000],
          ['other', 44100],
        ]),
      }),
    ).toEqual([]);
  });
  it('a disk that is nearly full is told, by what the armed tracks need', () => {
    // Mono, 24 bit, with dry copy: 2 * 144 000 bytes a second.
    const minute = 2 * 144_000 * 60;
    expect(before(armed, { diskFree: 31 * minute })).toEqual([]);
    expect(before(armed, { diskFree: 29 * minute })).toEqual(['disk warn']);
    expect(before(armed, { diskFree: minute / 2 })).toEqual(['disk stop']);
  });
  it('a guide on loudspeakers is told, unless it is muted meanwhile', () => {
    const media = { id: 'm', name: 'm.wav', channels: 1, frames: 48000, sampleRate: 48000, kind: 'file' as const };
    const guided = [
      { type: 'addTrack', id: 'g', name: 'Guide', layout: 'mono', destination: 'dia' },
      { type: 'addClip', id: 'c', track: 'g', start: 0, media },
      { type: 'setTrack', track: 'g', guide: true },
      { type: 'setSession', listening: 'loudspeakers' },
      { type: 'seatTrack', track: 'n', hearing: 'never' },
    ] satisfies EditJson[];
    const loud = applied(armed, ...guided);
    expect(before(loud, {})).toEqual(['guide-audible warn']);
    const muted = applied(loud, { type: 'setWork', guides: 'mute' });
    expect(before(muted, {})).toEqual([]);
  });
  it('a condenser without 48 V on an armed line is told before the take', () => {
    const dead = applied(armed, { type: 'setLine', line: 'desk/3', kind: 'condenser', phantom: false });
    expect(before(dead, {})).toContain('no-phantom/desk/3 stop');
  });
});
