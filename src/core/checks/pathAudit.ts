import { loops } from '@/core/paths';
import { MONITOR, pathFrom, referenceOf, stemsOf, type Bus, type SessionDoc, type Track } from '@/core/session';
import type { Check } from './check';

/** Findings on routing: what reaches no stem, what passes by the reference, what runs in a circle. */
export function pathAudit(doc: SessionDoc): Check[] {
  const circles = loops(doc);
  const caught = new Set(circles.flat().map((b) => b.id));
  return [
    ...circles.map((c) => loopCheck(doc, c)),
    ...doc.tracks.flatMap((t) => trackCheck(doc, t)),
    ...doc.buses.filter((b) => !caught.has(b.id)).flatMap((b) => busCheck(doc, b)),
  ];
}

function loopCheck(doc: SessionDoc, circle: Bus[]): Check {
  const names = circle.map((b) => b.name).join(' → ');
  const last = circle.find((b) => b.kind === 'reference') ?? circle.find((b) => b.kind === 'stem') ?? circle[0]!;
  const to = last.kind === 'reference' ? MONITOR : (referenceOf(doc)?.id ?? MONITOR);
  return {
    id: `loop/${circle
      .map((b) => b.id)
      .sort()
      .join('+')}`,
    grade: 'stop',
    place: 'flow',
    about: circle.map((b) => b.id),
    title: circle.length === 1 ? `${last.name} feeds itself` : `${names} run in a circle`,
    why: 'One link of the circle is held silent, so sound is missing from the print.',
    mends: [
      {
        label: `Send ${last.name} to ${to === MONITOR ? 'the monitor' : referenceOf(doc)!.name}`,
        edits: [{ type: 'sendBus', bus: last.id, destination: to }],
      },
    ],
  };
}

/** Where a stray track most likely belongs: the stem that its likes go to. */
function likelyStem(doc: SessionDoc, track: Track): Bus | undefined {
  const stems = stemsOf(doc);
  const count = (b: Bus) =>
    doc.tracks.filter((t) => t.id !== track.id && t.layout === track.layout && t.destination === b.id).length;
  return [...stems].sort((a, b) => count(b) - count(a))[0];
}

function trackCheck(doc: SessionDoc, track: Track): Check[] {
  const path = pathFrom(doc, track.destination);
  if (path.some((b) => b.kind === 'stem')) return [];
  const stem = likelyStem(doc, track);
  const mends: Check['mends'] = stem
    ? [{ label: `Send to ${stem.name}`, edits: [{ type: 'sendTracks', tracks: [track.id], destination: stem.id }] }]
    : [];
  const common = { place: 'flow' as const, about: [track.id], mends };
  if (track.destination === MONITOR) {
    return [
      {
        ...common,
        id: `by-reference/${track.id}`,
        grade: 'warn',
        title: `${track.name} passes by the reference`,
        why: 'You hear it, but no file will contain it.',
      },
    ];
  }
  const inReference = path.some((b) => b.kind === 'reference');
  return [
    {
      ...common,
      id: `no-stem/${track.id}`,
      grade: 'stop',
      title: `${track.name} reaches no stem`,
      why: inReference
        ? 'The reference will contain it, the stems will not: they cannot add up.'
        : 'It is neither heard nor printed.',
    },
  ];
}

function busCheck(doc: SessionDoc, bus: Bus): Check[] {
  const found: Check[] = [];
  const reference = referenceOf(doc);
  const fed = doc.tracks.some((t) => t.destination === bus.id) || doc.buses.some((b) => b.destination === bus.id);
  if (bus.kind !== 'reference' && reference && !pathFrom(doc, bus.destination).some((b) => b.id === reference.id)) {
    found.push({
      id: `by-reference/${bus.id}`,
      grade: fed ? 'stop' : 'warn',
      place: 'flow',
      about: [bus.id],
      title: `${bus.name} passes by the reference`,
      why:
        bus.destination === MONITOR
          ? 'It is heard, but the reference will not contain it.'
          : 'It is led nowhere: neither heard nor in the reference.',
      mends: [
        { label: `Send to ${reference.name}`, edits: [{ type: 'sendBus', bus: bus.id, destination: reference.id }] },
      ],
    });
  }
  if (bus.kind === 'reference' && bus.destination !== MONITOR) {
    found.push({
      id: `unheard/${bus.id}`,
      grade: 'warn',
      place: 'flow',
      about: [bus.id],
      title: `${bus.name} is not heard`,
      why: 'It is printed, but nobody listens to it.',
      mends: [{ label: 'Send to the monitor', edits: [{ type: 'sendBus', bus: bus.id, destination: MONITOR }] }],
    });
  }
  if (bus.kind !== 'reference' && !fed) {
    found.push({
      id: `unused/${bus.id}`,
      grade: 'note',
      place: 'flow',
      about: [bus.id],
      title: `${bus.name} gets no sound`,
      why: 'Its file will be silent.',
      mends: [],
    });
  }
  return found;
}
