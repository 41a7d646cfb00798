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

export const patchDoc = (doc: SessionDoc, patches: readonly Patch[]): SessionDoc => applyPatches(doc, [...patches]);

export type { Patch };
