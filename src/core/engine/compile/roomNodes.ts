import type { Kernels } from '@/core/kernels';
import type { Room } from '@/core/rooms';
import { foldDown, layoutOf, type Layout } from '@/core/speakers';
import { EARS, pairsOf, PORTS, speakerNode, TEST, type PlanLink, type PlanNode } from '../plan';

/** Links from what is heard, in `heard`, to the loudspeakers of a room: as they are called, the rest folded. */
export function speakerLinks(from: string, heard: Layout, room: Room): PlanLink[] {
  const fold = foldDown(heard, layoutOf(room.layout));
  return room.speakers.map(({ label }, i): PlanLink => ({
    id: `${from}/${speakerNode(label)}`,
    to: speakerNode(label),
    tap: 'after',
    gains: fold.flatMap((row, c): [number, number, number][] => (row[i] ? [[c, 0, row[i]]] : [])),
    delay: 0,
  }));
}

/**
 * The loudspeakers of a room: each with its trim, sign, mute and delay, on its port; and the test signals, which reach
 * nothing but them. Where two ears listen instead, test signals are folded for those.
 */
export function roomNodes(k: Kernels, room: Room, channels: number, rate: number): PlanNode[] {
  const layout = layoutOf(room.layout);
  const toEars = foldDown(layout, layoutOf('stereo'), { centre: Math.SQRT1_2, surround: Math.SQRT1_2, lfe: 1 });
  const speakers = room.speakers.map((s): PlanNode => {
    const there = s.port !== null && s.port <= channels && !s.muted;
    const gain = k.gain(s.trim) * (s.inverted ? -1 : 1);
    return {
      ...{ id: speakerNode(s.label), kind: 'speaker', channels: 1, chain: [], gain: 1, lead: 0 },
      links: there
        ? [
            {
              ...{ id: `${speakerNode(s.label)}/out`, to: PORTS, tap: 'after', gains: [[0, s.port! - 1, gain]] },
              ...{ delay: 0, wait: Math.round((s.delay / 1000) * rate) },
            },
          ]
        : [],
    };
  });
  return [
    {
      ...{ id: TEST, kind: 'test', channels: layout.speakers.length, chain: [], gain: 1, lead: 0 },
      links: [
        ...speakerLinks(TEST, layout, room),
        { id: `${TEST}/ears`, to: EARS, tap: 'after', gains: pairsOf(toEars), delay: 0 },
      ],
    },
    ...speakers,
    { id: PORTS, kind: 'ports', channels, chain: [], gain: 1, links: [], lead: 0 },
  ];
}
