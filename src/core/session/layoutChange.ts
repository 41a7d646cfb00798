import { layoutOf, type Layout, type LayoutId } from '@/core/speakers';
import type { SessionDoc } from './document';

const hasHeight = ({ speakers }: Layout): boolean => speakers.some((s) => !s.lfe && s.elevation !== 0);
const hasLfe = ({ speakers }: Layout): boolean => speakers.some((s) => s.lfe);
const MOST_NAMES = 4;

function names(list: readonly string[]): string {
  const shown = list.slice(0, MOST_NAMES).join(', ');
  return list.length > MOST_NAMES ? `${shown} and ${list.length - MOST_NAMES} more` : shown;
}

const plural = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;

/** What becomes of a session whose mix gets another layout, in sentences. Nothing of it is lost: one undo brings all back. */
export function layoutChange(doc: SessionDoc, to: LayoutId): string[] {
  const [before, after] = [layoutOf(doc.format.layout), layoutOf(to)];
  const told: string[] = [`${plural(doc.buses.length, 'bus').replace('buss', 'buses')} will be in ${after.name}.`];
  const placed = doc.tracks.filter((t) => t.layout === 'mono' || t.layout === 'stereo');
  if (placed.length > 0)
    told.push(`${plural(placed.length, 'source')} keep${placed.length === 1 ? 's' : ''} the place in the room.`);
  const high = placed.filter((t) => (t.placement.elevation ?? 0) !== 0).map((t) => t.name);
  if (high.length > 0 && !hasHeight(after))
    told.push(
      `${names(high)}: heard at ear height, since ${after.name} has nothing above; the height stays written down.`,
    );
  const low = placed.filter((t) => t.placement.lfe > -100).map((t) => t.name);
  if (low.length > 0 && !hasLfe(after)) told.push(`${names(low)}: what goes to the LFE is not heard in ${after.name}.`);
  const wide = doc.tracks.filter((t) => !placed.includes(t));
  const folded = wide.filter((t) =>
    layoutOf(t.layout).speakers.some((s) => !after.speakers.some((a) => a.label === s.label)),
  );
  if (folded.length > 0)
    told.push(`${names(folded.map((t) => t.name))}: channels that ${after.name} has not are folded into its own.`);
  const follow = doc.deliverables.filter((d) => d.layout === doc.format.layout && !d.ownLayout).map((d) => d.token);
  if (follow.length > 0) told.push(`Files in the layout of the mix follow: ${names(follow)}.`);
  const stay = doc.deliverables.filter((d) => d.layout !== doc.format.layout || d.ownLayout);
  if (stay.length > 0)
    told.push(
      `Files stay as they were asked for: ${names(stay.map((d) => `${d.token} in ${layoutOf(d.layout).name}`))}.`,
    );
  const wider = stay.filter((d) => layoutOf(d.layout).speakers.length > after.speakers.length).map((d) => d.token);
  if (wider.length > 0) told.push(`${names(wider)} will be wider than the mix: some channels stay silent.`);
  return before.id === after.id ? [] : told;
}
