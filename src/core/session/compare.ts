import { layoutOf } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { MONITOR, type SessionDoc, type Stage, type Take } from './document';

/** What differs from `before` to `after`, in words, the weightiest first. */
export function changesBetween(before: SessionDoc, after: SessionDoc): string[] {
  return [
    ...format(before, after),
    ...rows('track', before.tracks, after.tracks, (a, b) => track(before, after, a, b)),
    ...rows('bus', before.buses, after.buses, (a, b) => [
      ...(!a.frozen === !b.frozen ? [] : [frozen(b)]),
      ...renamed(a.name, b.name),
      ...level(b.name, a.level, b.level),
      ...switched(b.name, 'muted', a.muted, b.muted),
      ...destination(before, after, b.name, a.destination, b.destination),
      ...(a.trim === b.trim ? [] : [`${b.name} is trimmed by ${b.trim.toFixed(1)} dB instead of ${a.trim.toFixed(1)}`]),
      ...sends(after, b.name, a.sends, b.sends),
      ...(a.rooms === b.rooms
        ? []
        : [`${b.name} has ${b.rooms === 'shared' ? 'one room for all' : 'a room for each stem'}`]),
      ...(same(a.leftOut, b.leftOut) ? [] : [`${b.name} is made of other stems`]),
      ...(same(a.linked, b.linked) ? [] : [`the stems of ${b.name} are limited together differently`]),
      ...(same(a.placement, b.placement) ? [] : [`${b.name} stands elsewhere in the room`]),
      ...chainChanges(b.name, a.chain, b.chain),
    ]),
    ...rows('line', before.lines, after.lines, (a, b) => [
      ...renamed(a.name, b.name),
      ...chainChanges(b.name, a.chain, b.chain),
      ...(same(a.sheet, b.sheet) ? [] : [`the line sheet of ${b.name} changed`]),
    ]),
    ...lanes(before, after),
    ...deliverables(before, after),
    ...(same(before.tempo, after.tempo) ? [] : ['the tempo map changed']),
    ...(same(before.settings, after.settings) ? [] : ['working settings changed']),
    ...(same(before.range, after.range) ? [] : ['the range changed']),
  ];
}

function lanes(before: SessionDoc, after: SessionDoc): string[] {
  if (before.lanes === after.lanes) return [];
  const keys = [...new Set([...Object.keys(before.lanes), ...Object.keys(after.lanes)])];
  return keys.flatMap((key) => {
    const [a, b] = [before.lanes[key], after.lanes[key]];
    if (same(a, b)) return [];
    const { node, param } = (b ?? a)!.target;
    const name = [...after.tracks, ...after.buses, ...before.tracks, ...before.buses].find((n) => n.id === node)?.name;
    const lane = `${name ?? 'the click'}’s ${param} lane`;
    if (!a) return [`${lane} is new`];
    if (!b) return [`${lane} is gone`];
    return [a.on === b.on ? `${lane} runs differently` : `${lane} is ${b.on ? 'on' : 'off'}`];
  });
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const plural = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;

function format(before: SessionDoc, after: SessionDoc): string[] {
  const [a, b] = [before.format, after.format];
  const found: string[] = [];
  if (before.name !== after.name) found.push(`the session is called ${after.name} instead of ${before.name}`);
  if (a.sampleRate !== b.sampleRate) found.push(`${b.sampleRate / 1000} kHz instead of ${a.sampleRate / 1000}`);
  if (a.wordLength !== b.wordLength) found.push(`${b.wordLength} bit instead of ${a.wordLength}`);
  if (a.frameRate !== b.frameRate) found.push(`${b.frameRate} fps instead of ${a.frameRate}`);
  if (a.startTimecode !== b.startTimecode) found.push(`starts at ${b.startTimecode} instead of ${a.startTimecode}`);
  if (a.layout !== b.layout) found.push(`mix in ${layoutOf(b.layout).name} instead of ${layoutOf(a.layout).name}`);
  return found;
}

function rows<T extends { id: string; name: string }>(
  word: string,
  before: readonly T[],
  after: readonly T[],
  inside: (a: T, b: T) => string[],
): string[] {
  const gone = before.filter((a) => !after.some((b) => b.id === a.id)).map((a) => `${word} ${a.name} is gone`);
  const made = after.filter((b) => !before.some((a) => a.id === b.id)).map((b) => `${word} ${b.name} is new`);
  const kept = after.flatMap((b) => {
    const a = before.find((x) => x.id === b.id);
    return a && a !== b ? inside(a, b) : [];
  });
  return [...gone, ...made, ...kept];
}

type Track = SessionDoc['tracks'][number];
type Bus = SessionDoc['buses'][number];

function track(before: SessionDoc, after: SessionDoc, a: Track, b: Track): string[] {
  const found = [
    ...renamed(a.name, b.name),
    ...level(b.name, a.level, b.level),
    ...switched(b.name, 'muted', a.muted, b.muted),
    ...destination(before, after, b.name, a.destination, b.destination),
    ...sends(after, b.name, a.sends, b.sends),
    ...chainChanges(b.name, a.chain, b.chain),
  ];
  if (!same(a.inputs, b.inputs)) found.push(`${b.name} is patched differently`);
  if (!same(a.placement, b.placement)) found.push(`${b.name} stands elsewhere in the room`);
  if (!a.frozen !== !b.frozen) found.push(frozen(b));
  const takes = b.takes.length - a.takes.length;
  if (takes !== 0) found.push(`${b.name}: ${plural(Math.abs(takes), 'take')} ${takes > 0 ? 'more' : 'fewer'}`);
  if (!same(a.clips, b.clips)) {
    const more = b.clips.length - a.clips.length;
    found.push(
      more === 0
        ? `${b.name}: clips moved or changed`
        : `${b.name}: ${plural(Math.abs(more), 'clip')} ${more > 0 ? 'more' : 'fewer'}`,
    );
  }
  return found;
}

const frozen = (n: Track | Bus): string => `${n.name} is ${n.frozen ? '' : 'no longer '}frozen`;
const renamed = (a: string, b: string): string[] => (a === b ? [] : [`${a} is called ${b}`]);
const level = (name: string, a: number, b: number): string[] =>
  a === b ? [] : [`${name} at ${b.toFixed(1)} dB instead of ${a.toFixed(1)}`];
const switched = (name: string, word: string, a: boolean, b: boolean): string[] =>
  a === b ? [] : [`${name} is ${b ? '' : 'no longer '}${word}`];

function sends(doc: SessionDoc, name: string, a: Track['sends'], b: Track['sends']): string[] {
  const to = (s: Track['sends'][number]) => doc.buses.find((x) => x.id === s.to)?.name ?? s.to;
  return [
    ...a.filter((s) => !b.some((o) => o.id === s.id)).map((s) => `${name} has no send to ${to(s)} any more`),
    ...b.filter((s) => !a.some((o) => o.id === s.id)).map((s) => `${name} sends to ${to(s)}`),
    ...b
      .filter((s) => a.some((o) => o.id === s.id && !same(o, s)))
      .map((s) => `the send of ${name} to ${to(s)} changed`),
  ];
}

function destination(
  before: SessionDoc,
  after: SessionDoc,
  name: string,
  a: string | null,
  b: string | null,
): string[] {
  if (a === b) return [];
  const call = (doc: SessionDoc, id: string | null) =>
    id === null ? 'nowhere' : id === MONITOR ? 'the monitor' : (doc.buses.find((x) => x.id === id)?.name ?? id);
  return [`${name} goes to ${call(after, b)} instead of ${call(before, a)}`];
}

/** How a chain differs from an earlier one, in words. */
export function chainChanges(name: string, a: readonly Stage[], b: readonly Stage[]): string[] {
  if (same(a, b)) return [];
  const word = (s: Stage) => stageKind(s.type).name;
  const gone = a.filter((s) => !b.some((o) => o.id === s.id)).map((s) => `${name}: ${word(s)} is gone`);
  const made = b.filter((s) => !a.some((o) => o.id === s.id)).map((s) => `${name}: ${word(s)} is new`);
  const kept = b.flatMap((s) => {
    const old = a.find((o) => o.id === s.id);
    if (!old || same(old, s)) return [];
    return [
      old.on === s.on ? `${name}: ${word(s)} is set differently` : `${name}: ${word(s)} is ${s.on ? 'on' : 'off'}`,
    ];
  });
  const found = [...gone, ...made, ...kept];
  return found.length ? found : [`${name}: the order of the chain changed`];
}

function deliverables(before: SessionDoc, after: SessionDoc): string[] {
  const call = (d: SessionDoc['deliverables'][number]) => `${d.token} in ${layoutOf(d.layout).name}`;
  const gone = before.deliverables.filter((a) => !after.deliverables.some((b) => b.id === a.id));
  const made = after.deliverables.filter((b) => !before.deliverables.some((a) => a.id === b.id));
  const changed = after.deliverables.filter((b) => before.deliverables.some((a) => a.id === b.id && !same(a, b)));
  return [
    ...gone.map((d) => `${call(d)} is no longer asked`),
    ...made.map((d) => `${call(d)} is asked too`),
    ...changed.map((d) => `${call(d)} is asked differently`),
    ...(same(before.limits, after.limits) ? [] : [`limits ${after.limits.name} instead of ${before.limits.name}`]),
    ...(same(before.printing, after.printing) ? [] : ['it is printed in another way']),
    ...(before.namePattern === after.namePattern ? [] : ['files are named differently']),
  ];
}

/** How the chains that a take went through differ from what its lines have today; nothing for untouched lines. */
export function changedSince(doc: SessionDoc, track: Track, chains: readonly (readonly Stage[])[]): string[] {
  return track.inputs.flatMap((id, c) => {
    const line = doc.lines.find((l) => l.id === id);
    const then = chains[c];
    return line && then && line.record !== 'dry' ? chainChanges(line.name, then, line.chain) : [];
  });
}

/**
 * How what a take went through differs from what its lines have today. A chain that was changed while it was recorded
 * differs from any.
 */
export function takeChangedSince(doc: SessionDoc, track: Track, take: Take): string[] {
  const changes = take.chainChanges ?? [];
  const seconds = (at: number) => (at / doc.format.sampleRate).toFixed(1);
  return [
    ...changes.map((c) => `the chain was changed ${seconds(c.at)} s into the take`),
    ...changedSince(doc, track, changes.at(-1)?.chains ?? take.chains),
  ];
}
