import { stemsOf, type EditJson, type MediaRef, type SessionDoc } from '@/core/session';
import { layoutOfWidth, widthOf, type LayoutId } from '@/core/speakers';
import { frameRate, frameToSample, timecodeToFrames } from '@/core/units';
import { readEdl } from './edl';
import { readOtio } from './otio';
import { ExchangeFault, type Read, type Timeline, type TimelineClip } from './timeline';

/** What comes of a timeline of another tool, before it comes. */
export interface BroughtIn {
  edits: EditJson[];
  /** Clips that are laid. */
  laid: number;
  /** Tracks that are made for them. */
  made: string[];
  /** What does not match, and what could not be read, in sentences. */
  notes: string[];
}

/** Reads a timeline by the ending of its file. Throws ExchangeFault with the line or the field that is wrong. */
export function readTimeline(doc: SessionDoc, name: string, text: string): Read<Timeline> {
  const { sampleRate, frameRate: id, startTimecode } = doc.format;
  if (/\.otio$/i.test(name)) return readOtio(text, sampleRate);
  if (/\.edl$/i.test(name)) return readEdl(text, id, sampleRate, timecodeToFrames(startTimecode, frameRate(id)));
  throw new ExchangeFault(`${name}: a timeline ends in .otio, an edit list in .edl.`);
}

const plain = (name: string): string =>
  decodeURIComponentSafe(name)
    .replace(/^.*[/\\]/, '')
    .replace(/\.\w+$/, '')
    .toLowerCase();

function decodeURIComponentSafe(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** Files of the session by their plain names. */
function filesByName(doc: SessionDoc): ReadonlyMap<string, MediaRef[]> {
  const files = new Map<string, MediaRef[]>();
  for (const m of Object.values(doc.media)) {
    if (m.kind === 'dry') continue;
    const same = files.get(plain(m.name));
    if (same) same.push(m);
    else files.set(plain(m.name), [m]);
  }
  return files;
}

/** The file of the session that a clip means: by its name, and long enough. A string says why there is none. */
function fileFor(files: ReadonlyMap<string, MediaRef[]>, clip: TimelineClip): MediaRef | string {
  const named = files.get(plain(clip.source)) ?? [];
  if (named.length === 0) return `${clip.source} is not among the files of this session`;
  const long = named.find((m) => clip.offset + clip.length <= m.frames);
  return long ?? `${clip.source} is shorter here than "${clip.name}" needs`;
}

const layoutFor = (doc: SessionDoc, channels: number): LayoutId | null =>
  widthOf(doc.format.layout) === channels ? doc.format.layout : (layoutOfWidth(channels)?.id ?? null);

/**
 * Lays a timeline onto the session: rows onto tracks of the same name and width, others onto new ones; files are found by
 * name and length. What does not match is told, and left out.
 */
export function bringIn(
  doc: SessionDoc,
  { value: timeline, notes: read }: Read<Timeline>,
  newId: (what: string) => string,
): BroughtIn {
  const rate = frameRate(doc.format.frameRate);
  const own = timecodeToFrames(doc.format.startTimecode, rate);
  const shift =
    frameToSample(timeline.startFrames, frameRate(timeline.frameRate), doc.format.sampleRate) -
    frameToSample(own, rate, doc.format.sampleRate);
  const edits: EditJson[] = [];
  const made: string[] = [];
  const lost = new Map<string, number>();
  const lose = (why: string) => void lost.set(why, (lost.get(why) ?? 0) + 1);
  const files = filesByName(doc);
  let laid = 0;
  for (const row of timeline.tracks) {
    const byWidth = new Map<number, { clip: TimelineClip; media: MediaRef }[]>();
    for (const clip of row.clips) {
      const media = fileFor(files, clip);
      if (typeof media === 'string') lose(media);
      else if (clip.start + shift < 0)
        lose(`"${clip.name}" begins before ${doc.format.startTimecode}, the start of this session`);
      else {
        const same = byWidth.get(media.channels);
        if (same) same.push({ clip, media });
        else byWidth.set(media.channels, [{ clip, media }]);
      }
    }
    for (const [channels, clips] of byWidth) {
      const there = doc.tracks.find(
        (t) => t.name.toLowerCase() === row.name.toLowerCase() && widthOf(t.layout) === channels,
      );
      const layout = layoutFor(doc, channels);
      if (!there && !layout) {
        clips.forEach(({ clip }) => lose(`no track can be ${channels} channels wide, as ${clip.source} is`));
        continue;
      }
      const track = there?.id ?? newId('track');
      if (!there) {
        const name = (row.name || 'Brought in').slice(0, 60);
        made.push(name);
        edits.push({
          type: 'addTrack',
          id: track,
          name,
          layout: layout!,
          destination: doc.destinations[layout!] ?? stemsOf(doc)[0]?.id ?? null,
        });
      }
      laid += clips.length;
      edits.push({
        type: 'layClips',
        track,
        clips: clips.map(({ clip: c, media }) => ({
          ...{ id: newId('clip'), media: media.id, name: (c.name || media.name).slice(0, 200) },
          ...{ start: c.start + shift, offset: c.offset, length: c.length },
        })),
      });
    }
  }
  const known = new Set(doc.markers.map((m) => `${m.at} ${m.name}`));
  for (const m of timeline.markers)
    if (m.at + shift >= 0 && !known.has(`${m.at + shift} ${m.name}`))
      edits.push({
        type: 'setMarker',
        marker: newId('marker'),
        at: m.at + shift,
        name: m.name.slice(0, 60) || 'Marker',
      });
  return {
    edits,
    laid,
    made,
    notes: [...read, ...[...lost].map(([why, n]) => `${why}${n > 1 ? ` (${n} clips)` : ''}.`)],
  };
}
