import { EditRefused, type SessionDoc } from './document';
import { readAs } from './edits/edit';
import { DocumentForm } from './forms/document';
import { upgradeDoc } from './upgrade';
import { faultOf } from './whole';

/**
 * A document from outside, in the present form: every member is what it should be, and its parts fit together. Throws
 * EditRefused with what is wrong otherwise; `what` names it there ("template", "session", ...).
 */
export function wholeDocument(stored: unknown, what: string): SessionDoc {
  let fault: string | null;
  try {
    const doc = upgradeDoc(stored as SessionDoc);
    readAs(DocumentForm, doc, what);
    fault = faultOf(null, doc);
    if (!fault) return doc;
  } catch (error) {
    fault = (error as Error).message;
    // What cannot even be walked through is told in our own words, not in the machine's.
    if (!(error instanceof EditRefused)) fault = 'it does not have the form of a session';
  }
  throw new EditRefused(`The ${what} is damaged: ${fault.slice(0, 600)}. Nothing was taken in.`);
}
