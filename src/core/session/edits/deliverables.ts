import { Type } from 'class-transformer';
import {
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  IsObject,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { Dithering } from '@/core/files';
import { CHANNEL_ORDERS, layoutOf, isOwn, ordersOf, type ChannelOrder, type LayoutId } from '@/core/speakers';
import {
  wordLengthOf,
  busOf,
  fileFormOf,
  type FileKind,
  canEncode,
  deliverableOf,
  EditRefused,
  foldOf,
  type AdmKind,
  type Deliverable,
  type Encoding,
  type LoudnessLimits,
  type SessionDoc,
  type WordLength,
} from '../document';
import { LINKED_PARAMS } from '../params';
import { Edit, IsId, IsLayout, IsParam } from './edit';
import { FILE_KINDS, SAMPLE_RATES, WORD_LENGTHS } from './format';

const IsToken = (): PropertyDecorator =>
  Matches(/^[A-Za-z0-9-]{1,12}$/, {
    message: 'token must be 1 to 12 letters, digits or hyphens: it stands in the file name',
  });

export class LimitsRef {
  @IsString() @Length(1, 40) name!: string;
  @IsOptional() @IsNumber() @Min(-60) @Max(0) target!: number | null;
  @IsNumber() @Min(0) @Max(10) tolerance!: number;
  @IsNumber() @Min(-20) @Max(0) truePeak!: number;
}

const plain = (l: LimitsRef): LoudnessLimits => ({
  name: l.name,
  target: l.target ?? null,
  tolerance: l.tolerance,
  truePeak: l.truePeak,
});

// Token and layout are what tells two files of one print apart.
function checkUnique(doc: SessionDoc, d: Deliverable): void {
  const twin = doc.deliverables.find(
    (o) => o.id !== d.id && o.token.toLowerCase() === d.token.toLowerCase() && o.layout === d.layout,
  );
  if (twin)
    throw new EditRefused(
      `Two files would have the same name: "${d.token}" in ${layoutOf(d.layout).name} is asked already. Choose other letters or another layout; nothing was changed.`,
    );
}

export class AddDeliverable extends Edit {
  @IsId() id!: string;
  @IsId() bus!: string;
  @IsLayout() layout!: LayoutId;
  @IsToken() token!: string;

  get label() {
    return 'ask one more file';
  }

  apply(doc: SessionDoc): void {
    busOf(doc, this.bus);
    if (doc.deliverables.some((d) => d.id === this.id))
      throw new EditRefused(`A deliverable "${this.id}" is there already.`);
    const made: Deliverable = { id: this.id, bus: this.bus, layout: this.layout, token: this.token };
    checkUnique(doc, made);
    const last = doc.deliverables.findLastIndex((d) => d.bus === this.bus);
    doc.deliverables.splice(last < 0 ? doc.deliverables.length : last + 1, 0, made);
  }
}

export class SetDeliverable extends Edit {
  @IsId() deliverable!: string;
  @IsOptional() @IsId() bus?: string;
  @IsOptional() @IsLayout() layout?: LayoutId;
  @IsOptional() @IsToken() token?: string;
  /** 0: as the session. */
  @IsOptional() @IsIn([0, ...WORD_LENGTHS]) wordLength?: WordLength | 0;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => LimitsRef) limits?: LimitsRef;
  /** Back to the session's limits. */
  @IsOptional() @IsIn([true]) commonLimits?: true;
  /** Of a fold-down: its limiter; null: none. */
  @ValidateIf((e: SetDeliverable) => e.ceiling !== null && e.ceiling !== undefined)
  @IsParam(LINKED_PARAMS.ceiling)
  ceiling?: number | null;

  /** Of a fold-down: the session's coefficients; null: ITU-R BS.775. */
  @ValidateIf((e: SetDeliverable) => e.fold !== null && e.fold !== undefined)
  @IsId()
  fold?: string | null;
  /** Encoded into two channels; null: not. */
  @ValidateIf((e: SetDeliverable) => e.encode !== null && e.encode !== undefined)
  @IsIn(['lt-rt', 'four-in-two'])
  encode?: Encoding | null;
  /** Order of the channels; null: as WAV masks count. */
  @ValidateIf((e: SetDeliverable) => e.order !== null && e.order !== undefined)
  @IsIn(CHANNEL_ORDERS.map((o) => o.id))
  order?: ChannelOrder | null;
  /** Hz; 0: as the session. */
  @IsOptional() @IsIn([0, ...SAMPLE_RATES]) sampleRate?: number;
  @IsOptional() @IsIn(['none', 'bed', 'objects']) adm?: 'none' | AdmKind;
  /** null: as its bits ask for. */
  @ValidateIf((e: SetDeliverable) => e.dither !== null && e.dither !== undefined)
  @IsIn(['none', 'tpdf', 'shaped'])
  dither?: Dithering | null;
  /** null: as the session. */
  @ValidateIf((e: SetDeliverable) => e.fileKind !== null && e.fileKind !== undefined)
  @IsIn(FILE_KINDS)
  fileKind?: FileKind | null;
  @ValidateIf((e: SetDeliverable) => e.perChannel !== null && e.perChannel !== undefined)
  @IsBoolean()
  perChannel?: boolean | null;

  get label() {
    return 'change deliverable';
  }

  apply(doc: SessionDoc): void {
    const d = deliverableOf(doc, this.deliverable);
    if (this.bus !== undefined) busOf(doc, this.bus);
    checkUnique(doc, { ...d, layout: this.layout ?? d.layout, token: this.token ?? d.token });
    if (this.bus !== undefined) d.bus = this.bus;
    if (this.layout !== undefined && this.layout !== d.layout) {
      d.layout = this.layout;
      if (this.layout === doc.format.layout) delete d.ownLayout;
      else d.ownLayout = true;
    }
    if (this.token !== undefined) d.token = this.token;
    this.setFolding(doc, d);
    // An order that the layout has none of would be told of a file that is as it always was.
    if (this.order === null || this.order === 'wav') delete d.order;
    else if (this.order !== undefined) d.order = this.order;
    if (d.order && !ordersOf(layoutOf(d.layout)).some((o) => o.id === d.order)) delete d.order;
    if (typeof this.ceiling === 'number') {
      if (busOf(doc, d.bus).layout === d.layout)
        throw new EditRefused(`${d.token} is no fold-down: what it is printed from is limited in its own chain.`);
      d.ceiling = this.ceiling;
    } else if (this.ceiling === null) delete d.ceiling;
    if (this.wordLength === 0 || this.wordLength === doc.format.wordLength) delete d.wordLength;
    else if (this.wordLength !== undefined) d.wordLength = this.wordLength;
    if (this.sampleRate === 0 || this.sampleRate === doc.format.sampleRate) delete d.sampleRate;
    else if (this.sampleRate !== undefined) d.sampleRate = this.sampleRate;
    this.setForm(doc, d);
    if (this.adm === 'none') delete d.adm;
    else if (this.adm) {
      const { fileKind, perChannel } = fileFormOf(doc, d);
      if (fileKind !== 'Broadcast WAV' || perChannel)
        throw new EditRefused(
          `${d.token} can tell its channels by the Audio Definition Model only as one interleaved WAV, and it is asked otherwise.`,
        );
      if (d.encode) throw new EditRefused(`${d.token} is encoded: its two channels are no speakers to be told.`);
      d.adm = this.adm;
    }
    if (this.dither === null) delete d.dither;
    else if (this.dither !== undefined) {
      if (wordLengthOf(doc, d) === 32)
        throw new EditRefused(`${d.token} has 32 bits, which are not rounded: there is nothing to dither.`);
      d.dither = this.dither;
    }
    if (this.commonLimits) delete d.limits;
    else if (this.limits) d.limits = plain(this.limits);
  }

  // Two channels hold what is encoded, and something wider is encoded.
  private setForm(doc: SessionDoc, d: Deliverable): void {
    if (this.fileKind === null || this.fileKind === doc.format.fileKind) delete d.fileKind;
    else if (this.fileKind !== undefined) d.fileKind = this.fileKind;
    if (this.perChannel === null || this.perChannel === (doc.format.perChannel ?? false)) delete d.perChannel;
    else if (this.perChannel !== undefined) d.perChannel = this.perChannel;
  }

  private setFolding(doc: SessionDoc, d: Deliverable): void {
    const { fold, encode } = this;
    if (fold === null) delete d.fold;
    else if (fold !== undefined) {
      if (!foldOf(doc, fold)) throw new EditRefused('Those coefficients are not in the session any more.');
      d.fold = fold;
    }
    if (encode === null) delete d.encode;
    else if (encode !== undefined) d.encode = encode;
    if (!d.encode) return;
    if (d.layout !== 'stereo')
      throw new EditRefused(
        `${d.token} is encoded into two channels, so it is in stereo. Take the encoding off first.`,
      );
    const { name, layout } = busOf(doc, d.bus);
    if (!canEncode(layout, d.encode))
      throw new EditRefused(
        isOwn(layout)
          ? `${name} is in a layout of your own, for which there is no Lt/Rt.`
          : `${name} has no more than two channels; there is nothing to encode.`,
      );
  }
}

export class RemoveDeliverable extends Edit {
  @IsId() deliverable!: string;

  get label() {
    return 'take file out of the brief';
  }

  apply(doc: SessionDoc): void {
    deliverableOf(doc, this.deliverable);
    doc.deliverables = doc.deliverables.filter((d) => d.id !== this.deliverable);
  }
}

export class OrderDeliverables extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) order!: string[];

  get label() {
    return 'reorder deliverables';
  }

  apply(doc: SessionDoc): void {
    const sorted = this.order.map((id) => deliverableOf(doc, id));
    if (new Set(this.order).size !== doc.deliverables.length)
      throw new EditRefused('The new order must name every deliverable once.');
    doc.deliverables = sorted;
  }
}

/** Loudness and peaks that the whole job is held to. */
export class SetLimits extends Edit {
  @IsObject() @ValidateNested() @Type(() => LimitsRef) limits!: LimitsRef;

  get label() {
    return 'change loudness limits';
  }

  apply(doc: SessionDoc): void {
    doc.limits = plain(this.limits);
  }
}
