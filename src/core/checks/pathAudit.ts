import {
  circles,
  hasRooms,
  linksOf,
  pathFrom,
  reachedFrom,
  sounds,
  stemOfTrack,
  stemsBehind,
  wouldLoop,
  type Circle,
  type Link,
} from '@/core/paths';
import { stageKind } from '@/core/stages';
import { printsAmong } from '@/core/print';
import { isBus, MONITOR, referenceOf, stemsOf, type Bus, type SessionDoc, type Track } from '@/core/session';
import type { Check } from './check';
import { doubledCheck } from './doubledCheck';
import { fourCheck } from './fourCheck';
import { widthCheck } from './widthCheck';

/** Findings on routing: what reaches no stem, what passes by the reference, what runs in a circle. */
export function pathAudit(doc: SessionDoc): Check[] {
  const found = circles(doc);
  const caught = new Set(found.flatMap((c) => c.nodes.map((n) => n.id)));
  return [
    ...found.map((c) => circleCheck(doc, c)),
    ...doc.tracks.flatMap((t) => trackCheck(doc, t)),
    ...[...doc.tracks, ...doc.buses].flatMap((n) => twoStems(doc, n)),
    ...printedAgain(doc),
    ...doc.buses.filter((b) => !caught.has(b.id)).flatMap((b) => busCheck(doc, b)),
    ...doubledCheck(doc),
    ...widthCheck(doc),
    ...fourCheck(doc),
  ];
}

function circleCheck(doc: SessionDoc, { nodes, links }: Circle<Track | Bus>): Check {
  const names = nodes.map((n) => n.name).join(' → ');
  return {
    id: `loop/${nodes
      .map((n) => n.id)
      .sort()
      .join('+')}`,
    grade: 'stop',
    place: 'flow',
    about: nodes.map((n) => n.id),
    title: nodes.length === 1 ? `${nodes[0]!.name} feeds itself` : `${names} run in a circle`,
    why: 'One link of the circle is held silent, so sound is missing from the print.',
    mends: [circleMend(doc, nodes, links)],
  };
}

// A key or a send is let go first: the ways out stay as they are. The last one closed the circle.
function circleMend(doc: SessionDoc, nodes: (Track | Bus)[], links: readonly Link[]): Check['mends'][number] {
  const name = (id: string) => nodes.find((n) => n.id === id)!.name;
  const key = links.findLast((l) => l.kind === 'key');
  if (key) {
    const owner = nodes.find((n) => n.id === key.to)!;
    return {
      label: `Let ${owner.name} listen to itself`,
      edits: [
        {
          type: 'setStageKey',
          owner: { kind: isBus(owner) ? 'bus' : 'track', id: owner.id },
          stage: key.stage!,
          key: null,
        },
      ],
    };
  }
  const send = links.findLast((l) => l.kind === 'send');
  if (send)
    return {
      label: `Switch off the send from ${name(send.from)} to ${name(send.to)}`,
      edits: [{ type: 'setSend', owner: send.from, send: send.id, on: false }],
    };
  const reference = referenceOf(doc);
  const turned = turnedOut(nodes.filter(isBus), reference);
  const to = reference && turned.every((b) => b !== reference) ? reference : null;
  return {
    label: `Send ${turned.map((b) => b.name).join(' and ')} to ${to?.name ?? 'the monitor'}`,
    edits: turned.map((b) => ({ type: 'sendBus' as const, bus: b.id, destination: to?.id ?? MONITOR })),
  };
}

// Where the circle is opened: the reference goes to the monitor; stems go to the reference, all of them, for a stem that
// feeds a stem would be the next fault; among groups the last one does.
function turnedOut(circle: Bus[], reference: Bus | undefined): Bus[] {
  if (reference && circle.includes(reference)) return [reference];
  const stems = circle.filter((b) => b.kind === 'stem');
  return stems.length > 0 ? stems : [circle.at(-1)!];
}

/** Stems that a stray track may belong to: those that its likes go to, most first; without any, all of them. */
function likelyStems(doc: SessionDoc, track: Track): Bus[] {
  const stems = stemsOf(doc);
  const count = (b: Bus) =>
    doc.tracks.filter((t) => t.id !== track.id && t.layout === track.layout && t.destination === b.id).length;
  const known = stems.filter((b) => count(b) > 0).sort((a, b) => count(b) - count(a));
  return known.length > 0 ? known.slice(0, 1) : stems;
}

function trackCheck(doc: SessionDoc, track: Track): Check[] {
  const path = pathFrom(doc, track.destination);
  // What was printed is listened to; led to a stem it is told for itself.
  if (track.print !== undefined || path.some((b) => b.kind === 'stem')) return [];
  // Nothing tells where it belongs once no likes of it are there: then one chooses.
  const mends: Check['mends'] = likelyStems(doc, track).map((stem) => ({
    label: `Send to ${stem.name}`,
    edits: [{ type: 'sendTracks', tracks: [track.id], destination: stem.id }],
  }));
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
  const fed = linksOf(doc).to(bus.id).some(sounds);
  const reached = reachedFrom(doc, bus.id, (l) => l.kind === 'out');
  const inReference = doc.buses.some((b) => b.kind === 'reference' && reached.has(b.id));
  // Rooms of a return lead where their stems are; without a feeder there are none yet.
  const rooms = hasRooms(bus) && !fed;
  if (bus.kind !== 'reference' && reference && !inReference && !rooms && !leftOutOfAll(doc, bus)) {
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
  const into = bus.kind === 'stem' ? pathFrom(doc, bus.destination).find((b) => b.kind === 'stem') : undefined;
  if (into) {
    found.push({
      id: `stem-in-stem/${bus.id}`,
      grade: 'stop',
      place: 'flow',
      about: [bus.id, into.id],
      title: `${bus.name} feeds the stem ${into.name}`,
      why: 'Both files hold its sound: whoever adds the stems up hears it twice.',
      mends: reference
        ? [
            {
              label: `Send ${bus.name} to ${reference.name}`,
              edits: [{ type: 'sendBus', bus: bus.id, destination: reference.id }],
            },
          ]
        : [],
    });
  }
  if (bus === reference && bus.destination !== MONITOR) {
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
  found.push(...roomsCheck(bus));
  if (bus.kind === 'return' && fed && inReference && stemsBehind(doc, linksOf(doc).from(bus.id)).length === 0)
    found.push({
      id: `no-stem/${bus.id}`,
      grade: 'stop',
      place: 'flow',
      about: [bus.id],
      title: `${bus.name} reaches no stem`,
      why: 'The reference will contain it, the stems will not: they cannot add up.',
      mends: stemsOf(doc)
        .filter((stem) => !wouldLoop(doc, bus.id, stem.id))
        .map((stem) => ({
          label: `Send to ${stem.name}`,
          edits: [{ type: 'sendBus' as const, bus: bus.id, destination: stem.id }],
        })),
    });
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

const leftOutOfAll = (doc: SessionDoc, bus: Bus): boolean =>
  doc.buses.every((b) => b.kind !== 'reference' || b.leftOut.includes(bus.id));

/**
 * A source whose sound comes into a second stem by a send: whoever adds the stems up has it where it does not belong, and
 * a stem that is muted leaves a part of it.
 */
function twoStems(doc: SessionDoc, node: Track | Bus): Check[] {
  const own = isBus(node) && node.kind === 'stem' ? node : stemOfTrack(doc, node.destination);
  const links = linksOf(doc);
  return links.from(node.id).flatMap((link): Check[] => {
    if (link.kind !== 'send') return [];
    const to = doc.buses.find((b) => b.id === link.to)!;
    const others = stemsBehind(doc, [link]);
    const other = doc.buses.find((b) => b.id !== own?.id && others.includes(b.id));
    if (!own || !other) return [];
    return [
      {
        id: `two-stems/${link.id}`,
        grade: 'warn',
        place: 'flow',
        about: [node.id],
        title: `${node.name} is in ${own.name} and, through ${to.name}, in ${other.name}`,
        why: `Without ${other.name} a part of it is missing; without ${own.name} a part of it stays.`,
        mends: [
          ...(to.kind === 'return' && own.id !== node.id
            ? [
                {
                  label: `Give ${to.name} one room for each stem`,
                  edits: [{ type: 'setBus' as const, bus: to.id, rooms: 'each stem' as const }],
                },
              ]
            : []),
          {
            label: `Switch off the send to ${to.name}`,
            edits: [{ type: 'setSend' as const, owner: node.id, send: link.id, on: false }],
          },
        ],
      },
    ];
  });
}

const DYNAMICS = ['compressor', 'gate', 'deEsser', 'limiter'];

/** A return with a room for each stem sounds like one for all only as long as it is linear. */
function roomsCheck(bus: Bus): Check[] {
  const stage = hasRooms(bus) ? bus.chain.find((s) => s.on && DYNAMICS.includes(s.type)) : undefined;
  if (!stage) return [];
  return [
    {
      id: `rooms/${bus.id}`,
      grade: 'note',
      place: 'flow',
      about: [bus.id],
      title: `${bus.name} has a ${stageKind(stage.type).name.toLowerCase()} in each of its rooms`,
      why: 'Each room answers to its own stem only, so their sum is not what one room for all would give.',
      mends: [],
    },
  ];
}

/** Prints that were brought in again and led to a stem: they would be printed once more, on top of what they hold. */
function printedAgain(doc: SessionDoc): Check[] {
  const prints = new Set(printsAmong(doc).map((m) => m.id));
  if (prints.size === 0 && doc.tracks.every((t) => t.print === undefined)) return [];
  return doc.tracks.flatMap((track) => {
    const clip = track.clips.find((c) => track.print !== undefined || prints.has(c.media));
    const stem = clip ? stemOfTrack(doc, track.destination) : undefined;
    if (!clip || !stem) return [];
    return [
      {
        id: `printed-again/${track.id}`,
        grade: 'warn' as const,
        place: 'flow' as const,
        about: [track.id, stem.id],
        title: `${track.name} plays a print of this session into ${stem.name}`,
        why: `${clip.name} would be printed once more, on top of what it was made of.`,
        mends: [
          {
            label: `Send ${track.name} to the monitor only`,
            edits: [{ type: 'sendTracks' as const, tracks: [track.id], destination: MONITOR }],
          },
        ],
      },
    ];
  });
}
