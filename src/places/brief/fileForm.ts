import { ENCODING_NAMES } from '@/core/report';
import { canEncode, foldOf, type Bus, type Deliverable, type Encoding, type SessionDoc } from '@/core/session';
import { layoutOf, widthOf, type Layout, type LayoutId } from '@/core/speakers';

/** How a file comes out of its bus: a layout, what folds it, and whether it is encoded. */
export interface FileForm {
  layout: LayoutId;
  fold: string | null;
  encode: Encoding | null;
}

const keyOf = ({ layout, fold, encode }: FileForm): string => [layout, encode ?? '', fold ?? ''].join('|');

/** A file's form in words: "stereo", "stereo, Lt/Rt", "stereo, soft surrounds". */
export function formName(
  doc: Pick<SessionDoc, 'folds'>,
  { layout, fold, encode }: Pick<Deliverable, 'layout' | 'fold' | 'encode'>,
): string {
  const set = foldOf(doc, fold);
  return [layoutOf(layout).name, ...(encode ? [ENCODING_NAMES[encode]] : []), ...(set ? [set.name] : [])].join(', ');
}

/** Forms that a file of a bus can have, with the one that it has. */
export function formsOf(
  doc: Pick<SessionDoc, 'folds'>,
  d: Deliverable,
  bus: Bus | undefined,
  layouts: readonly Layout[],
): { key: string; form: FileForm; name: string }[] {
  const from = bus?.layout ?? d.layout;
  const plain = layouts.filter((l) => l.speakers.length <= widthOf(from));
  const folds = plain.filter((l) => l.id !== from && l.speakers.length < widthOf(from));
  const encodings = (Object.keys(ENCODING_NAMES) as Encoding[]).filter((e) => canEncode(from, e));
  const forms: FileForm[] = [
    ...plain.map((l) => ({ layout: l.id, fold: null, encode: null })),
    ...encodings.map((encode) => ({ layout: 'stereo' as const, fold: null, encode })),
    ...(doc.folds ?? []).flatMap((f) => folds.map((l) => ({ layout: l.id, fold: f.id, encode: null }))),
  ];
  const now = { layout: d.layout, fold: d.fold ?? null, encode: d.encode ?? null };
  const all = forms.some((f) => keyOf(f) === keyOf(now)) ? forms : [...forms, now];
  return all.map((form) => ({
    key: keyOf(form),
    form,
    name: formName(doc, { layout: form.layout, fold: form.fold ?? undefined, encode: form.encode ?? undefined }),
  }));
}

export const formKey = (d: Deliverable): string =>
  keyOf({ layout: d.layout, fold: d.fold ?? null, encode: d.encode ?? null });
