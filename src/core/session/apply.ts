import same from 'fast-deep-equal';
import { enablePatches, produceWithPatches, applyPatches, type Patch } from 'immer';
import { EditRefused, type SessionDoc } from './document';
import type { Edit } from './edits';
import { dropLanes } from './lanes';
import { isObject, isRows } from './takeBack';
import { faultOf } from './whole';

enablePatches();

export interface Change {
  doc: SessionDoc;
  patches: Patch[];
  inverse: Patch[];
}

/**
 * Applies one edit and returns the new document with patches in both directions. The given document is
 * not touched. Throws EditRefused with a sentence for the user.
 */
export function applyEdit(doc: SessionDoc, edit: Edit): Change {
  const [next, patches, inverse] = produceWithPatches(doc, (draft) => {
    edit.apply(draft);
    dropLanes(draft);
  });
  const fault = faultOf(doc, next);
  if (fault) throw new EditRefused(`This cannot be done (${edit.label}): ${fault}. Nothing was changed.`);
  return { doc: next, patches, inverse };
}

/** Two documents as one change, in patches no larger than what differs. */
export function patchBetween(before: SessionDoc, after: SessionDoc): Change {
  const [doc, patches, inverse] = produceWithPatches(before, (draft) => become(draft, after));
  return { doc, patches, inverse };
}

function become(draft: object, target: object): void {
  const [a, b] = [draft as Record<string, unknown>, target as Record<string, unknown>];
  for (const key of Object.keys(a)) if (!Object.hasOwn(b, key)) delete a[key];
  for (const [key, value] of Object.entries(b)) {
    const there = a[key];
    if (same(there, value)) continue;
    const alike =
      (isObject(there) && isObject(value)) ||
      (isRows(there) && isRows(value) && there.length === value.length && there.every((r, i) => r.id === value[i]!.id));
    if (alike) become(there, value);
    else a[key] = value;
  }
}

export const patchDoc = (doc: SessionDoc, patches: readonly Patch[]): SessionDoc => applyPatches(doc, [...patches]);

export type { Patch };
