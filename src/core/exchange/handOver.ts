import type { SessionDoc } from '@/core/session';
import { frameRate, frameToSample, sampleToFrame, timecodeToFrames } from '@/core/units';
import { writeCueList } from './cueList';
import { writeEdl } from './edl';
import { writeOtio } from './otio';
import { scriptOf, sessionTimeline, sourcesOf } from './sessionTimeline';
import { writeSrt, writeVtt } from './subtitles';
import { ExchangeFault } from './timeline';

export interface HandedOver {
  /** Ending of the file. */
  ending: string;
  text: string;
  /** What does not go along, in sentences. */
  losses: string[];
}

const many = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`;

/** What clips have that a list or timeline of other tools does not say. */
function clipLosses(doc: SessionDoc): string[] {
  const clips = sourcesOf(doc).flatMap((t) => t.clips);
  const faded = clips.filter((c) => c.fadeIn || c.fadeOut || c.joint).length;
  const gained = clips.filter((c) => c.gain !== 0).length;
  const silent = clips.filter((c) => c.muted).length;
  const lanes = Object.keys(doc.lanes).length;
  const takes = sourcesOf(doc).reduce((n, t) => n + t.takes.length, 0);
  return [
    ...(faded ? [`${many(faded, 'clip has', 'clips have')} fades or joints; they are left out.`] : []),
    ...(gained ? [`${many(gained, 'clip has', 'clips have')} a gain of its own; it is left out.`] : []),
    ...(silent ? [`${many(silent, 'muted clip goes', 'muted clips go')} along as if it sounded.`] : []),
    ...(lanes ? [`${many(lanes, 'lane is', 'lanes are')} left out.`] : []),
    ...(takes ? [`${many(takes, 'take', 'takes')} behind the comps stay here.`] : []),
    'Levels, places, chains and paths stay here.',
  ];
}

// What does not begin or end on a frame is moved to the nearest one.
function offFrames(doc: SessionDoc): number {
  const rate = frameRate(doc.format.frameRate);
  const { sampleRate } = doc.format;
  const on = (sample: number) => frameToSample(sampleToFrame(sample, rate, sampleRate), rate, sampleRate) === sample;
  return sourcesOf(doc)
    .flatMap((t) => t.clips)
    .filter((c) => !on(c.start) || !on(c.start + c.length) || !on(c.offset)).length;
}

function editLists(doc: SessionDoc): HandedOver {
  const timeline = sessionTimeline(doc);
  const off = offFrames(doc);
  return {
    ending: '.edl',
    text: timeline.tracks.flatMap((t, i) => (t.clips.length ? [writeEdl(timeline, i)] : [])).join('\r\n'),
    losses: [
      ...(off ? [`${many(off, 'clip does', 'clips do')} not lie on frames and is moved to the nearest one.`] : []),
      ...(doc.markers.length ? [`${many(doc.markers.length, 'marker is', 'markers are')} left out.`] : []),
      ...clipLosses(doc),
    ],
  };
}

function otio(doc: SessionDoc): HandedOver {
  return { ending: '.otio', text: writeOtio(sessionTimeline(doc)), losses: clipLosses(doc) };
}

const SCRIPT = {
  csv: ['Notes and states of the lines stay here.'],
  srt: ['Numbers of the lines are counted anew; notes and states stay here.'],
  vtt: ['Numbers, notes and states of the lines stay here.'],
} as const;

function script(doc: SessionDoc, as: keyof typeof SCRIPT): HandedOver {
  const cues = scriptOf(doc);
  if (cues.length === 0) throw new ExchangeFault('This session has no script yet. Bring one in on the Floor first.');
  const { frameRate: id, startTimecode } = doc.format;
  const startFrames = timecodeToFrames(startTimecode, frameRate(id));
  const text =
    as === 'csv' ? writeCueList(cues, { frameRate: id, startFrames }) : as === 'srt' ? writeSrt(cues) : writeVtt(cues);
  return { ending: `.${as}`, text, losses: [...SCRIPT[as]] };
}

/** Open formats that a session is handed over in. */
export const HAND_OVER = [
  { id: 'otio', label: 'Timeline', note: 'OpenTimelineIO', make: otio },
  { id: 'edl', label: 'Edit lists', note: 'CMX 3600, one a track', make: editLists },
  { id: 'csv', label: 'Script as a table', note: 'CSV', make: (doc: SessionDoc) => script(doc, 'csv') },
  { id: 'srt', label: 'Script as subtitles', note: 'SRT', make: (doc: SessionDoc) => script(doc, 'srt') },
  { id: 'vtt', label: 'Script as subtitles', note: 'WebVTT', make: (doc: SessionDoc) => script(doc, 'vtt') },
] as const;
