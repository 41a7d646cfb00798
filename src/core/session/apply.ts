import { enablePatches, produceWithPatches, applyPatches, type Patch } from 'immer';
import type { SessionDoc } from './document';
import type { Edit } from './edits';

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
  const [next, patches, inverse] = produceWithPatches(doc, (draft) => edit.apply(draft as SessionDoc));
  return { doc: next, patches, inverse };
}

/** Two documents as one change: members that are equal are left alone. */
export function patchBetween(before: SessionDoc, after: SessionDoc): Change {
  const [doc, patches, inverse] = produceWithPatches(before, (draft) => {
    const members = draft as unknown as Record<string, unknown>;
    for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
      const value = (after as unknown as Record<string, unknown>)[key];
      if (JSON.stringify((before as unknown as Record<string, unknown>)[key]) === JSON.stringify(value)) continue;
      if (value === undefined) delete members[key];
      else members[key] = value;
    }
  });
  return { doc, patches, inverse };
}

export const patchDoc = (doc: SessionDoc, patches: readonly Patch[]): SessionDoc => applyPatches(doc, [...patches]);

export type { Patch };
