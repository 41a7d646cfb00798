import { layoutOf, widthOf } from '@/core/speakers';
import { stageKind, STAGE_KINDS } from '@/core/stages';
import { MONITOR, type Bus, type Clip, type SessionDoc, type Stage, type Take, type Track } from './document';
import { entryOf } from './ids';
import { laneKey, laneParam, pointsFault } from './lanes';
import { BUS_PARAMS, CLIP_PARAMS, inLimits, SEND_PARAMS, TRACK_PARAMS } from './params';

const isCount = (n: number, least: number): boolean => Number.isSafeInteger(n) && n >= least;

/**
 * What would be wrong with `after`, in a sentence; null when it is whole. Looks at what differs from `before` only
 * (null: at everything): a fault of an old document must not stand in the way of every change.
 */
export function faultOf(before: SessionDoc | null, after: SessionDoc): string | null {
  if (before?.tracks !== after.tracks || before.buses !== after.buses) {
    const nodes = [...after.tracks, ...after.buses];
    const twice = firstTwice(nodes.map((n) => n.id)) ?? firstTwice(nodes.flatMap((n) => n.sends.map((s) => s.id)));
    if (twice) return `"${twice}" would be there twice`;
  }
  return (
    tracksFault(before, after) ??
    busesFault(before, after) ??
    chainsFault(before, after) ??
    lanesFault(before, after) ??
    mediaFault(before, after) ??
    listsFault(before, after)
  );
}

function firstTwice(ids: readonly string[]): string | null {
  const seen = new Set<string>();
  return ids.find((id) => seen.size === seen.add(id).size) ?? null;
}

const changed = <T>(before: readonly T[] | undefined, after: readonly T[] | undefined): T[] => {
  if (!after || before === after) return [];
  const old = new Set(before);
  return after.filter((x) => !old.has(x));
};

function destinationFault(doc: SessionDoc, name: string, to: string | null): string | null {
  if (to === null || to === MONITOR || doc.buses.some((b) => b.id === to)) return null;
  return `${name} would lead to "${to}", which is no bus`;
}

function sendsFault(doc: SessionDoc, { name, sends }: Track | Bus): string | null {
  for (const send of sends) {
    if (!doc.buses.some((b) => b.id === send.to)) return `${name} would send to "${send.to}", which is no bus`;
    if (!inLimits(SEND_PARAMS.level, send.level)) return `${name} would have a send of ${send.level} dB`;
  }
  return null;
}

function tracksFault(before: SessionDoc | null, after: SessionDoc): string | null {
  const old = new Map(before?.tracks.map((t) => [t.id, t]));
  const moved = changed(before?.tracks, after.tracks);
  for (const track of before?.buses === after.buses ? moved : after.tracks) {
    const fault = destinationFault(after, track.name, track.destination) ?? sendsFault(after, track);
    if (fault) return fault;
  }
  if (moved.length === 0) return null;
  for (const track of moved) {
    const was = old.get(track.id);
    if (!inLimits(TRACK_PARAMS.level, track.level)) return `${track.name} would have a level of ${track.level} dB`;
    const width = widthOf(track.layout);
    if (track.inputs.length !== width)
      return `${track.name} would have ${track.inputs.length} inputs for ${width} channels`;
    const gone = track.inputs.find((l) => l !== null && !after.lines.some((x) => x.id === l));
    if (gone) return `${track.name} would be patched to "${gone}", which is no line`;
    const found =
      frozenFault(after, was, track) ??
      clipsFault(after, track, changed(was?.clips, track.clips)) ??
      takesFault(after, track, changed(was?.takes, track.takes));
    if (found) return found;
    for (const comp of changed(was?.otherComps, track.otherComps))
      for (const clip of comp.clips) {
        const fault = clipFault(after, track, clip);
        if (fault) return fault;
      }
  }
  const clips = moved.some((t) => old.get(t.id)?.clips !== t.clips || old.get(t.id)?.otherComps !== t.otherComps);
  const twice =
    (clips && firstTwice(after.tracks.flatMap((t) => t.clips.map((c) => c.id)))) ||
    firstTwice(after.tracks.flatMap((t) => t.takes.map((k) => k.id)));
  return twice ? `"${twice}" would be there twice` : null;
}

function clipFault(doc: SessionDoc, track: Track, clip: Clip): string | null {
  const media = entryOf(doc.media, clip.media);
  if (!media) return `${clip.name} would have no file`;
  if (media.channels !== widthOf(track.layout))
    return `${clip.name} has ${media.channels} channels, ${track.name} is ${layoutOf(track.layout).name}`;
  if (!isCount(clip.start, 0)) return `${clip.name} would not lie on the timeline`;
  if (!isCount(clip.length, 1)) return `${clip.name} would have no length`;
  if (!isCount(clip.offset, 0) || clip.offset + clip.length > media.frames)
    return `${clip.name} would reach beyond the sound of its file (${media.frames} samples)`;
  const { min, max } = CLIP_PARAMS.gain;
  if (!inLimits(CLIP_PARAMS.gain, clip.gain))
    return `${clip.name} would have a gain of ${clip.gain} dB; it goes from ${min} to ${max}`;
  for (const fade of [clip.fadeIn, clip.fadeOut, clip.joint])
    if (fade && !isCount(fade.frames, 0)) return `${clip.name} would have a fade of ${fade.frames} samples`;
  return null;
}

function frozenFault(
  doc: SessionDoc,
  was: Track | Bus | undefined,
  { frozen, name, layout }: Track | Bus,
): string | null {
  if (!frozen || frozen === was?.frozen) return null;
  const media = entryOf(doc.media, frozen.media);
  if (!media || media.frames < 1) return `${name} would be frozen to no file`;
  if (media.channels !== widthOf(layout))
    return `${name} is ${layoutOf(layout).name}, and would be frozen to ${media.channels} channels`;
  return isCount(frozen.start, 0) && Number.isInteger(frozen.from) ? null : `${name} would be frozen to nothing`;
}

function clipsFault(doc: SessionDoc, track: Track, fresh: readonly Clip[]): string | null {
  const touched = new Set(fresh);
  for (const clip of fresh) {
    const fault = clipFault(doc, track, clip);
    if (fault) return fault;
  }
  if (touched.size === 0) return null;
  for (let i = 1; i < track.clips.length; i++) {
    const [left, right] = [track.clips[i - 1]!, track.clips[i]!];
    if (left.start + left.length > right.start && (touched.has(left) || touched.has(right)))
      return `${left.name} and ${right.name} would lie over each other`;
  }
  return null;
}

function takesFault(doc: SessionDoc, track: Track, fresh: readonly Take[]): string | null {
  for (const take of fresh) {
    const what = `Take ${take.number} of ${track.name}`;
    const media = entryOf(doc.media, take.media);
    if (!media || (take.dryMedia !== null && !entryOf(doc.media, take.dryMedia))) return `${what} would have no file`;
    if (!isCount(take.length, 1) || take.length !== media.frames) return `${what} would be as long as no file of it`;
    if (!Number.isSafeInteger(take.start) || !isCount(take.number, 0)) return `${what} would not lie on the timeline`;
    const lost = take.gaps?.some((g) => !isCount(g.at, 0) || !isCount(g.frames, 1) || g.at + g.frames > take.length);
    if (lost) return `${what} would have a gap outside it`;
  }
  return null;
}

function busesFault(before: SessionDoc | null, after: SessionDoc): string | null {
  const fresh = new Set(changed(before?.buses, after.buses));
  const ids = (doc: SessionDoc | null) => doc?.buses.map((b) => b.id).join();
  // A bus that goes may be what others lead to.
  const moved = ids(before) !== ids(after);
  for (const bus of after.buses) {
    if (!moved && !fresh.has(bus)) continue;
    const fault = destinationFault(after, bus.name, bus.destination) ?? sendsFault(after, bus);
    if (fault) return fault;
    const gone = bus.leftOut.find((id) => !after.buses.some((b) => b.id === id && b.kind === 'stem'));
    if (gone) return `${bus.name} would leave out "${gone}", which is no stem`;
  }
  const old = new Map(before?.buses.map((b) => [b.id, b]));
  for (const bus of fresh) {
    const frozen = frozenFault(after, old.get(bus.id), bus);
    if (frozen) return frozen;
    if (!inLimits(BUS_PARAMS.level, bus.level)) return `${bus.name} would have a level of ${bus.level} dB`;
    if (!inLimits(BUS_PARAMS.trim, bus.trim)) return `${bus.name} would have a trim of ${bus.trim} dB`;
  }
  return null;
}

const chainOwners = (doc: SessionDoc | null): { name: string; chain: Stage[] }[] =>
  doc ? [...doc.lines, ...doc.tracks, ...doc.buses] : [];

/** What is wrong with a stage's kind and values, in a sentence; null when nothing is. */
export function stageFault(stage: Stage): string | null {
  if (!STAGE_KINDS.some((k) => k.type === stage.type))
    return `there is no stage "${stage.type}"; there are ${STAGE_KINDS.map((k) => k.type).join(', ')}`;
  const kind = stageKind(stage.type);
  for (const [id, value] of Object.entries(stage.values)) {
    const param = kind.params.find((p) => p.id === id);
    if (!param) return `${kind.name} has no value "${id}"`;
    if (!Number.isFinite(value) || value < param.min || value > param.max)
      return `${kind.name}: ${param.label} goes from ${param.min} to ${param.max} ${param.unit}, not to ${String(value)}`;
  }
  return null;
}

function chainsFault(before: SessionDoc | null, after: SessionDoc): string | null {
  const old = new Set(chainOwners(before).map((o) => o.chain));
  for (const { name, chain } of chainOwners(after)) {
    if (old.has(chain)) continue;
    const twice = firstTwice(chain.map((s) => s.id));
    if (twice) return `the chain of ${name} would hold "${twice}" twice`;
    for (const stage of chain) {
      const fault = stageFault(stage);
      if (fault) return `${name}: ${fault}`;
    }
  }
  return null;
}

function lanesFault(before: SessionDoc | null, after: SessionDoc): string | null {
  if (before?.lanes === after.lanes) return null;
  for (const [key, lane] of Object.entries(after.lanes)) {
    if (before?.lanes[key] === lane) continue;
    const param = laneParam(after, lane.target);
    if (!param || laneKey(lane.target) !== key) return `the lane "${key}" would belong to nothing`;
    const fault = lane.points.length === 0 ? `${param.label} would have no point` : pointsFault(param, lane.points);
    if (fault) return fault;
  }
  return null;
}

function mediaFault(before: SessionDoc | null, after: SessionDoc): string | null {
  if (before?.media === after.media) return null;
  for (const [id, media] of Object.entries(after.media)) {
    if (before && entryOf(before.media, id) === media) continue;
    if (media.id !== id || !isCount(media.frames, 0)) return `${media.name} would have no length`;
  }
  // What lost its file is told before it is heard as silence.
  for (const track of after.tracks) {
    const user = track.clips.find((c) => !entryOf(after.media, c.media)) ?? null;
    const was = user && before ? entryOf(before.media, user.media) : null;
    if (user && (was || !before)) return `${user.name} would have no file`;
  }
  return null;
}

function listsFault(before: SessionDoc | null, after: SessionDoc): string | null {
  const lists: [string, readonly { id: string }[] | undefined, readonly { id: string }[]][] = [
    ['cue', before?.cues, after.cues],
    ['marker', before?.markers, after.markers],
    ['line', before?.lines, after.lines],
    ['room tone', before?.shelf, after.shelf],
    ['deliverable', before?.deliverables, after.deliverables],
  ];
  for (const [what, was, now] of lists) {
    const twice = was === now ? null : firstTwice(now.map((x) => x.id));
    if (twice) return `${what} "${twice}" would be there twice`;
  }
  for (const cue of changed(before?.cues, after.cues))
    if (!isCount(cue.start, 0) || !isCount(cue.end, cue.start))
      return `cue ${cue.number} would not lie on the timeline`;
  for (const marker of changed(before?.markers, after.markers))
    if (!isCount(marker.at, 0)) return `marker ${marker.name} would not lie on the timeline`;
  for (const d of after.deliverables)
    if (before?.buses !== after.buses || before.deliverables !== after.deliverables)
      if (!after.buses.some((b) => b.id === d.bus)) return `a file would be asked of "${d.bus}", which is no bus`;
  if (!isCount(after.range.start, 0) || !isCount(after.range.end, after.range.start + 1))
    return 'the range would not lie on the timeline';
  return null;
}
