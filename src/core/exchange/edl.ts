import {
  frameRate,
  frameToSample,
  framesToTimecode,
  sampleToFrame,
  timecodeToFrames,
  type FrameRate,
  type FrameRateId,
} from '@/core/units';
import { ExchangeFault, type Read, type Timeline, type TimelineClip, type TimelineTrack } from './timeline';

/*
 * CMX 3600 style edit decision list: one event a clip, source and record timecodes in whole frames, names in
 * comments. What stands between frames is rounded to the nearest one: an EDL cannot say it.
 */
const MOST_EVENTS = 9999;

/** Reel names as the list allows them: letters, digits and underscores, eight of them, each source its own. */
function reelsOf(t: Timeline): Map<string, string> {
  const reels = new Map<string, string>();
  const taken = new Set<string>();
  for (const { source } of t.tracks.flatMap((track) => track.clips)) {
    if (reels.has(source)) continue;
    const plain = (source.replace(/\.\w+$/, '').replace(/[^A-Za-z0-9]+/g, '_') || 'AX').toUpperCase();
    let reel = plain.slice(0, 8);
    for (let n = 2; taken.has(reel); n++) reel = `${plain.slice(0, 7 - String(n).length)}_${n}`;
    taken.add(reel);
    reels.set(source, reel);
  }
  return reels;
}

const nearestFrame = (sample: number, rate: FrameRate, sampleRate: number): number => {
  const f = sampleToFrame(sample, rate, sampleRate);
  const [before, after] = [frameToSample(f, rate, sampleRate), frameToSample(f + 1, rate, sampleRate)];
  return sample - before <= after - sample ? f : f + 1;
};

/**
 * One list of one track: the first one's channel is A, the next one's A2, and so on; its name stands in a comment, as a
 * CMX list has no tracks by name. Throws ExchangeFault beyond 9999 events.
 */
export function writeEdl(t: Timeline, track = 0): string {
  const rate = frameRate(t.frameRate);
  const clips = [...(t.tracks[track]?.clips ?? [])].sort((a, b) => a.start - b.start);
  if (clips.length > MOST_EVENTS)
    throw new ExchangeFault(`An edit list holds ${MOST_EVENTS} events; this track has ${clips.length}.`);
  const tc = (frames: number) => framesToTimecode(frames, rate);
  const frame = (sample: number) => nearestFrame(sample, rate, t.sampleRate);
  const reels = reelsOf(t);
  const channel = track === 0 ? 'A' : `A${track + 1}`;
  const trackName = t.tracks[track]?.name ?? '';
  const lines = [`TITLE: ${t.name}`, `FCM: ${rate.drop ? 'DROP FRAME' : 'NON-DROP FRAME'}`, ''];
  clips.forEach((c, i) => {
    const from = frame(c.start);
    const length = Math.max(1, frame(c.start + c.length) - from);
    const source = frame(c.offset);
    const times = [source, source + length, t.startFrames + from, t.startFrames + from + length].map(tc).join(' ');
    lines.push(
      `${String(i + 1).padStart(3, '0')}  ${reels.get(c.source)!.padEnd(8)} ${channel.padEnd(5)} C        ${times}`,
      `* FROM CLIP NAME: ${c.name}`,
      `* SOURCE FILE: ${c.source}`,
      ...(trackName ? [`* TRACK NAME: ${trackName}`] : []),
    );
  });
  return lines.join('\r\n') + '\r\n';
}

const EVENT = /^(\d{3,6})\s+(\S+)\s+(\S+)\s+(\S+)(?:\s+(\d+))?\s+(\S+)\s+(\S+)\s+(\S+)\s+(\S+)\s*$/;

/** So many clips of a channel lie over each other at most: more is no edit, and would take a track each. */
const MOST_LAYERS = 64;

// Clips of one channel that lie over each other go onto further tracks: none of them is lost.
function layers(name: string, clips: readonly TimelineClip[], notes: string[]): TimelineTrack[] {
  const rows: TimelineClip[][] = [];
  for (const clip of [...clips].sort((a, b) => a.start - b.start)) {
    const row = rows.find((r) => r.at(-1)!.start + r.at(-1)!.length <= clip.start);
    if (row) row.push(clip);
    else rows.push([clip]);
    if (rows.length > MOST_LAYERS)
      throw new ExchangeFault(
        `More than ${MOST_LAYERS} events of ${name} lie over each other at "${clip.name}": this is no edit list of a mix. Nothing was read.`,
      );
  }
  if (rows.length > 1) notes.push(`Events of ${name} lie over each other; they were laid onto ${rows.length} tracks.`);
  return rows.map((r, i) => ({ name: i === 0 ? name : `${name} ${i + 1}`, clips: r }));
}

/**
 * Reads the audio events of a list onto one track per channel. Timecodes count as `rate` frames; record times are
 * taken from `startFrames`. Lines that cannot be read are named in the notes; a list without a single event is refused.
 */
export function readEdl(text: string, rateId: FrameRateId, sampleRate: number, startFrames: number): Read<Timeline> {
  const rate = frameRate(rateId);
  const notes: string[] = [];
  const tracks = new Map<string, TimelineClip[]>();
  let name = '';
  let current: TimelineClip[] = [];
  /** Names of the channels, where the list tells them. */
  const names = new Map<string, string>();
  let channelNow = '';
  const lines = text.split(/\r\n|\r|\n/);
  let picture = 0;
  lines.forEach((line, i) => {
    const title = /^TITLE:\s*(.*)$/.exec(line);
    if (title) name = title[1]!.trim();
    if (/^FCM:/.test(line) && /NON-DROP/.test(line) === rate.drop)
      notes.push(`Line ${i + 1}: the list says ${line.slice(4).trim()}; it is read as ${rate.label}.`);
    const named = /^\*\s*FROM CLIP NAME:\s*(.*)$/i.exec(line);
    const file = /^\*\s*SOURCE FILE:\s*(.*)$/i.exec(line);
    const onTrack = /^\*\s*TRACK NAME:\s*(.*)$/i.exec(line);
    if (onTrack && channelNow) names.set(channelNow, onTrack[1]!.trim());
    for (const c of current) {
      if (named) c.name = named[1]!.trim();
      if (file) c.source = file[1]!.trim();
    }
    if (!/^\d{3,6}\s/.test(line)) return;
    const event = EVENT.exec(line);
    if (!event) {
      current = [];
      notes.push(`Line ${i + 1} is no event that can be read; it was left out.`);
      return;
    }
    const [, , reel, channel, kind] = event as unknown as string[];
    if (!/^(A\d*(\/V)?|AA(\/V)?|B|NONE)/.test(channel!)) {
      current = [];
      picture++;
      return;
    }
    try {
      const [srcIn, , recIn, recOut] = event.slice(6, 10).map((t) => timecodeToFrames(t, rate)) as [
        number,
        number,
        number,
        number,
      ];
      if (recOut <= recIn) throw new RangeError('it ends before it starts');
      if (kind !== 'C') notes.push(`Line ${i + 1}: the transition ${kind} is taken as a cut.`);
      const start = frameToSample(recIn - startFrames, rate, sampleRate);
      const offset = frameToSample(srcIn, rate, sampleRate);
      const length = frameToSample(recOut - startFrames, rate, sampleRate) - start;
      const channels = channel!.startsWith('AA') ? ['A', 'A2'] : [channel!.replace(/\/V$/, '')];
      channelNow = channels.length === 1 ? channels[0]! : '';
      current = channels.map(() => ({ name: reel!, source: reel!, start, offset, length }));
      channels.forEach((n, k) => {
        const clips = tracks.get(n);
        if (clips) clips.push(current[k]!);
        else tracks.set(n, [current[k]!]);
      });
    } catch (error) {
      current = [];
      notes.push(`Line ${i + 1}: ${(error as Error).message}; the event was left out.`);
    }
  });
  if (picture > 0) notes.push(`${picture} picture event${picture > 1 ? 's were' : ' was'} left out.`);
  if (tracks.size === 0)
    throw new ExchangeFault(
      `No audio event was found in ${lines.length} lines. ${notes[0] ?? 'An event begins with its three-digit number.'}`,
    );
  return {
    value: {
      name,
      sampleRate,
      frameRate: rateId,
      startFrames,
      tracks: [...tracks].flatMap(([n, clips]) => layers(names.get(n) ?? n, clips, notes)),
      markers: [],
    },
    notes,
  };
}
