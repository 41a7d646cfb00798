import type { Kernels } from '@/core/kernels';
import { MONITOR } from '@/core/paths';
import { hearingOf, monitorOf, newStage, type SessionDoc } from '@/core/session';
import { layoutOf, loudnessWeights, toStereo } from '@/core/speakers';
import { headType } from '@/core/stages';
import { AUDITION, EARS, HEAD, HEARD_AS, pairsOf, through, type PlanLink, type PlanNode } from '../plan';
import { clickGains } from './clickGains';
import type { CompileOptions, Compiling } from './context';
import { hearingAs } from './listening';
import { roomNodes, speakerLinks } from './roomNodes';
import { DIM_DB } from './soundNodes';

/** Lines that are patched, and how they are heard on their tracks. */
export function lineNodes({ doc, links, options }: Compiling): PlanNode[] {
  return doc.lines.flatMap((line): PlanNode[] => {
    const patched = links.from(line.id).filter((l) => l.kind === 'listen');
    if (patched.length === 0) return [];
    const heard = patched.flatMap((l): PlanLink[] => {
      const t = doc.tracks.find((x) => x.id === l.to)!;
      const hearing = hearingOf(t);
      const hears =
        hearing === 'always' ||
        (t.armed && (hearing === 'armed' || (hearing === 'rolling' && (options.rolling ?? false))));
      return hears ? [{ id: l.id, to: t.id, tap: 'after', gains: [[0, l.channel!, 1]], delay: 0 }] : [];
    });
    return [{ id: line.id, kind: 'line', channels: 1, chain: line.chain, gain: 1, lead: 0, links: heard }];
  });
}

/** Clicks, the monitor, and what comes to two ears or to the loudspeakers of a room. */
export function monitorNodes(k: Kernels, doc: SessionDoc, options: CompileOptions): PlanNode[] {
  const { room, heardAs, head } = options;
  const layout = layoutOf(doc.format.layout);
  const asked = heardAs ? hearingAs(layout.id, heardAs) : null;
  // An encoder comes late: performers hear themselves without it.
  const hearing = options.recording && asked && asked.chain.length > 0 ? null : asked;
  const heard = hearing?.heard ?? layout;
  const { level, dimmed, muted } = monitorOf(doc);
  const clicks = clickGains(layout, doc.settings.click.to);
  const link = (from: string, to: string, matrix: number[][]): PlanLink => ({
    ...{ id: `${from}/${to === EARS ? 'out' : to}`, to, tap: 'after', gains: pairsOf(matrix), delay: 0 },
  });
  // What is encoded stands in the first two channels of something wider.
  const onward = (from: string): PlanLink[] => [
    head ? { ...link(from, HEAD, []), gains: through(heard.speakers.length) } : link(from, EARS, toStereo(heard)),
    ...(room ? speakerLinks(from, heard, room.room) : []),
  ];
  const node = (
    id: string,
    kind: PlanNode['kind'],
    channels: number,
    links: PlanLink[],
    more: Partial<PlanNode> = {},
  ) => ({
    ...{ id, kind, channels, chain: [], gain: 1, links, lead: 0 },
    ...more,
  });
  const width = layout.speakers.length;
  const gain = muted ? 0 : k.gain(level + (dimmed ? DIM_DB : 0));
  const made: PlanNode[] = [
    node(AUDITION, 'audition', 1, [{ ...link(AUDITION, MONITOR, [clicks]), id: `${AUDITION}/out` }]),
    node(MONITOR, 'monitor', width, hearing ? [link(MONITOR, HEARD_AS, hearing.gains)] : onward(MONITOR), { gain }),
  ];
  if (hearing)
    made.push(
      node(HEARD_AS, 'monitor', hearing.layout.speakers.length, onward(HEARD_AS), {
        chain: hearing.chain,
        weights: hearing.layout.speakers.map((_, c) => loudnessWeights(heard)[c] ?? 0),
      }),
    );
  if (head) {
    const chain = [newStage('head', headType(heard), true)];
    const links = [{ ...link(HEAD, EARS, []), gains: through(2) }];
    // A mono mix has one loudspeaker, and two ears hear it.
    made.push(node(HEAD, 'head', Math.max(2, heard.speakers.length), links, { chain }));
  }
  return [
    ...made,
    ...(room ? roomNodes(k, room.room, room.channels, doc.format.sampleRate) : []),
    node(EARS, 'ears', 2, []),
  ];
}
