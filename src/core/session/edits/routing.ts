import { ArrayNotEmpty, IsArray, IsBoolean, IsNumber, IsOptional, IsString, Length, Max, Min } from 'class-validator';
import { codeFor, newBus } from '../create';
import { busOf, EditRefused, MONITOR, referenceOf, stemsOf, trackOf, type SessionDoc } from '../document';
import { wouldLoop } from '../destinations';
import { Edit, IsId } from './edit';

const STEM_HUES = 8;

function checkDestination(doc: SessionDoc, destination: string | null): void {
  if (destination !== null && destination !== MONITOR) busOf(doc, destination);
}

/** Leads tracks to a bus, straight to the monitor, or nowhere (null). */
export class SendTracks extends Edit {
  @IsArray() @ArrayNotEmpty() @IsString({ each: true }) tracks!: string[];
  @IsOptional() @IsId() destination!: string | null;

  get label() {
    return this.tracks.length === 1 ? 'change destination' : `change destination of ${this.tracks.length} tracks`;
  }

  apply(doc: SessionDoc): void {
    const to = this.destination ?? null;
    checkDestination(doc, to);
    for (const track of this.tracks.map((id) => trackOf(doc, id))) track.destination = to;
  }
}

export class SendBus extends Edit {
  @IsId() bus!: string;
  @IsOptional() @IsId() destination!: string | null;

  get label() {
    return 'change bus destination';
  }

  apply(doc: SessionDoc): void {
    const bus = busOf(doc, this.bus);
    const to = this.destination ?? null;
    checkDestination(doc, to);
    // A loop is let in and told by the path audit: the engine leaves the closing link silent.
    bus.destination = to;
  }
}

/** Makes a stem that feeds the reference, with its deliverable; the given tracks go there at once. */
export class AddStem extends Edit {
  @IsId() id!: string;
  @IsString() @Length(1, 40) name!: string;
  @IsArray() @IsString({ each: true }) tracks!: string[];

  get label() {
    return `new stem ${this.name}`;
  }

  apply(doc: SessionDoc): void {
    if (doc.buses.some((b) => b.id === this.id))
      throw new EditRefused(`A bus with the id "${this.id}" is there already.`);
    const name = this.name.trim();
    if (!name) throw new EditRefused('A stem needs a name; files inherit it.');
    if (doc.buses.some((b) => b.name.toLowerCase() === name.toLowerCase())) {
      throw new EditRefused(`There is a bus "${name}" already; its file would have the same name.`);
    }
    const tracks = this.tracks.map((id) => trackOf(doc, id));
    const used = doc.buses.map((b) => b.hue);
    const hue =
      Array.from({ length: STEM_HUES }, (_, i) => i).find((i) => !used.includes(i)) ?? stemsOf(doc).length % STEM_HUES;
    const code = codeFor(
      name,
      doc.buses.map((b) => b.code),
    );
    doc.buses.push(newBus(this.id, name, code, 'stem', hue, doc.format.layout, referenceOf(doc)?.id ?? null));
    const letters =
      name
        .toUpperCase()
        .replace(/[^A-Z0-9]/g, '')
        .slice(0, 3) || code;
    const tokens = doc.deliverables.map((d) => d.token);
    const token = [letters, ...Array.from({ length: 99 }, (_, i) => `${letters}${i + 2}`)].find(
      (t) => !tokens.includes(t),
    )!;
    doc.deliverables.push({ id: `print-${this.id}`, bus: this.id, layout: doc.format.layout, token });
    for (const track of tracks) track.destination = this.id;
  }
}

/** Takes a bus away; what fed it goes where it went. */
export class RemoveBus extends Edit {
  @IsId() bus!: string;

  get label() {
    return 'remove bus';
  }

  override get risky() {
    return true;
  }

  apply(doc: SessionDoc): void {
    const bus = busOf(doc, this.bus);
    if (bus.kind === 'reference') throw new EditRefused('The reference stays: it is what the stems must add up to.');
    for (const track of doc.tracks) if (track.destination === bus.id) track.destination = bus.destination;
    for (const other of doc.buses)
      if (other.destination === bus.id)
        other.destination = wouldLoop(doc, other.id, bus.destination) ? null : bus.destination;
    doc.buses = doc.buses.filter((b) => b.id !== bus.id);
    doc.deliverables = doc.deliverables.filter((d) => d.bus !== bus.id);
  }
}

export class SetBus extends Edit {
  @IsId() bus!: string;
  @IsOptional() @IsString() @Length(1, 40) name?: string;
  @IsOptional() @IsNumber() @Min(-100) @Max(24) level?: number;
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsBoolean() soloed?: boolean;

  get label() {
    const what = (['name', 'level', 'muted', 'soloed'] as const).find((k) => this[k] !== undefined);
    return `set bus ${what ?? ''}`.trim();
  }

  apply(doc: SessionDoc): void {
    const bus = busOf(doc, this.bus);
    if (this.name !== undefined) bus.name = this.name.trim() || bus.name;
    if (this.level !== undefined) bus.level = this.level;
    if (this.muted !== undefined) bus.muted = this.muted;
    if (this.soloed !== undefined) bus.soloed = this.soloed;
  }
}

export class SetMonitor extends Edit {
  @IsOptional() @IsNumber() @Min(-100) @Max(12) level?: number;
  @IsOptional() @IsBoolean() dimmed?: boolean;
  @IsOptional() @IsBoolean() muted?: boolean;

  get label() {
    return 'set monitor';
  }

  override get aside() {
    return true;
  }

  apply(doc: SessionDoc): void {
    if (this.level !== undefined) doc.monitor.level = this.level;
    if (this.dimmed !== undefined) doc.monitor.dimmed = this.dimmed;
    if (this.muted !== undefined) doc.monitor.muted = this.muted;
  }
}
