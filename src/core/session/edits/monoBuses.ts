import { ArrayMinSize, ArrayUnique, IsArray, IsString, Length } from 'class-validator';
import { atSpeaker, layoutOf, type Layout, type LayoutId } from '@/core/speakers';
import { busOf, EditRefused, type SessionDoc } from '../document';
import { freshName, makeBus } from '../newBuses';
import { Edit, IsId, IsLayout } from './edit';

/**
 * Gives a wide bus a mono bus for each of its speakers, named after it: what is led to one of them sounds in that
 * speaker alone.
 */
export class SplitBus extends Edit {
  @IsId() bus!: string;
  /** One for each speaker, in the order of the layout. */
  @IsArray() @ArrayUnique() @IsId({ each: true }) ids!: string[];

  get label() {
    return 'split into mono buses';
  }

  apply(doc: SessionDoc): void {
    const bus = busOf(doc, this.bus);
    const layout = layoutOf(bus.layout);
    if (layout.speakers.length < 2) throw new EditRefused(`${bus.name} is mono already; nothing was split.`);
    if (this.ids.length !== layout.speakers.length)
      throw new EditRefused(
        `${bus.name} has ${layout.speakers.length} speakers, ${this.ids.length} mono buses were named.`,
      );
    const named = layout.speakers.map((s) => freshName(doc, `${bus.name} ${s.label}`, 'bus'));
    layout.speakers.forEach((s, i) => {
      const mono = makeBus(doc, {
        ...{ id: this.ids[i]!, name: named[i]!, kind: 'bus', layout: 'mono', destination: bus.id },
      });
      mono.placement = atSpeaker(layout, s.label);
    });
  }
}

/**
 * Which speaker of a layout each name means: its last word where that is a label, else, in order, what no other takes.
 * Null: no speaker is left.
 */
export function speakersFor(layout: Layout, names: readonly string[]): (string | null)[] {
  const labels = layout.speakers.map((s) => s.label);
  const said = names.map((n) => {
    const last = n
      .trim()
      .split(/[\s._-]+/)
      .at(-1)!
      .toLowerCase();
    return labels.find((l) => l.toLowerCase() === last) ?? null;
  });
  const taken = new Set<string>();
  const clear = said.map((l) => (l !== null && !taken.has(l) ? (taken.add(l), l) : null));
  const rest = labels.filter((l) => !taken.has(l));
  return clear.map((l) => l ?? rest.shift() ?? null);
}

/** Leads mono buses into a new bus of a layout, each into a speaker of its own; it goes on to where they went. */
export class JoinBuses extends Edit {
  @IsArray() @ArrayMinSize(2) @ArrayUnique() @IsId({ each: true }) buses!: string[];
  @IsId() id!: string;
  @IsString() @Length(1, 40) name!: string;
  @IsLayout() layout!: LayoutId;

  get label() {
    return `join ${this.buses.length} buses to ${layoutOf(this.layout).name}`;
  }

  apply(doc: SessionDoc): void {
    const layout = layoutOf(this.layout);
    const buses = this.buses.map((id) => busOf(doc, id));
    const wide = buses.find((b) => b.layout !== 'mono');
    if (wide)
      throw new EditRefused(
        `${wide.name} is ${layoutOf(wide.layout).name}; only mono buses are joined. Nothing was changed.`,
      );
    const other = buses.find((b) => b.kind !== 'bus');
    if (other) throw new EditRefused(`${other.name} is no group; only groups are joined. Nothing was changed.`);
    const speakers = speakersFor(
      layout,
      buses.map((b) => b.name),
    );
    if (speakers.includes(null))
      throw new EditRefused(
        `${layout.name} has ${layout.speakers.length} speakers for ${buses.length} buses. Nothing was changed.`,
      );
    const name = freshName(doc, this.name, 'bus');
    const to = [...new Set(buses.map((b) => b.destination))];
    if (to.length > 1)
      throw new EditRefused('They go to different buses; lead them to one first. Nothing was changed.');
    makeBus(doc, { id: this.id, name, kind: 'bus', layout: this.layout, destination: to[0]! });
    buses.forEach((b, i) => {
      b.destination = this.id;
      b.placement = atSpeaker(layout, speakers[i]!);
    });
  }
}
