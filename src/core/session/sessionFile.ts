import { EditRefused, type MediaRef, type SessionDoc } from './document';
import { wholeDocument } from './wholeDocument';

/** A file of a session as its archive tells of it. */
export interface ArchivedMedia {
  id: string;
  /** Name under media/; with braces where it stands for one file a channel. */
  file: string;
  kind: MediaRef['kind'];
  channels: number;
  frames: number;
  sampleRate: number;
}

/** A version that was kept. */
export interface ArchivedVersion {
  name: string;
  automatic: boolean;
  revision: number;
  /** ISO time. */
  at: string;
  doc: SessionDoc;
}

/** A step of the history, as it was stored. */
export interface ArchivedStep {
  revision: number;
  editId: string;
  kind: 'edit' | 'undo' | 'redo' | 'aside';
  undoes: number | null;
  label: string;
  edits: unknown[];
  patches: unknown[];
  inverse: unknown[];
  at: string;
}

/** The description inside an archive of a session: a ZIP with this as session.json, its files under media/ and picture/. */
export interface SessionFile {
  format: 'wide-room-session';
  version: 1;
  /** Id of the session where it was made. */
  id: string;
  revision: number;
  session: SessionDoc;
  media: ArchivedMedia[];
  /** Name under picture/; null: it has none. */
  picture: string | null;
  versions: ArchivedVersion[];
  /** Absent where it was left out. */
  history?: ArchivedStep[];
  /** Names of files that were not there when it was made. */
  missing: string[];
}

const KINDS: readonly string[] = ['file', 'take', 'dry'];
const STEPS: readonly string[] = ['edit', 'undo', 'redo', 'aside'];
const isName = (name: unknown): name is string => typeof name === 'string' && !/[\\/\0]|^\.|\.\.|[{,]\.|^$/.test(name);
const isCount = (n: unknown): n is number => Number.isSafeInteger(n) && (n as number) >= 0;
const isTime = (at: unknown): boolean => typeof at === 'string' && !Number.isNaN(Date.parse(at));

const isMedia = (m: Partial<ArchivedMedia> | null): boolean =>
  typeof m?.id === 'string' &&
  /^[\w-]{1,64}$/.test(m.id) &&
  isName(m.file) &&
  KINDS.includes(m.kind ?? '') &&
  [m.channels, m.frames, m.sampleRate].every(isCount);

const isVersion = (v: Partial<ArchivedVersion> | null): boolean =>
  typeof v?.name === 'string' &&
  typeof v.automatic === 'boolean' &&
  isCount(v.revision) &&
  isTime(v.at) &&
  isSession(v.doc);

const isStep = (s: Partial<ArchivedStep> | null): boolean =>
  isCount(s?.revision) &&
  typeof s?.editId === 'string' &&
  STEPS.includes(s.kind ?? '') &&
  (s.undoes === null || isCount(s.undoes)) &&
  typeof s.label === 'string' &&
  [s.edits, s.patches, s.inverse].every(Array.isArray) &&
  isTime(s.at);

const isSession = (doc: Partial<SessionDoc> | undefined): boolean =>
  typeof doc === 'object' &&
  doc !== null &&
  typeof doc.name === 'string' &&
  typeof doc.version === 'number' &&
  [doc.tracks, doc.buses, doc.lines, doc.deliverables].every(Array.isArray) &&
  [doc.media, doc.format, doc.range, doc.limits].every((part) => typeof part === 'object' && part !== null);

/** Reads the description of an archive. Throws EditRefused with a sentence that says what is wrong; nothing of it is used then. */
export function readSessionFile(text: string): SessionFile {
  let json: Partial<SessionFile> | null;
  try {
    json = JSON.parse(text) as Partial<SessionFile> | null;
  } catch {
    throw new EditRefused('session.json in this archive is no JSON. Nothing was brought in.');
  }
  if (json?.format !== 'wide-room-session')
    throw new EditRefused('This is no archive of a session. Nothing was brought in.');
  if (json.version !== 1)
    throw new EditRefused(
      `This archive has the form ${String(json.version)}, this release knows 1; open it with a later release. Nothing was brought in.`,
    );
  const { session, media, versions, history, picture, missing } = json;
  if (!isSession(session)) throw new EditRefused('The archive holds no session. Nothing was brought in.');
  const wrong = [
    ...(Array.isArray(media) && media.every(isMedia) ? [] : ['its files']),
    ...(Array.isArray(versions) && versions.every(isVersion) ? [] : ['its versions']),
    ...(history === undefined || (Array.isArray(history) && history.every(isStep)) ? [] : ['its history']),
    ...(picture === null || isName(picture) ? [] : ['its picture']),
    ...(Array.isArray(missing) && missing.every((m) => typeof m === 'string') ? [] : ['what was missing']),
    ...(typeof json.id === 'string' && isCount(json.revision) ? [] : ['its number']),
  ];
  if (wrong.length > 0)
    throw new EditRefused(
      `The archive tells ${wrong.join(' and ')} in a way that cannot be read. Nothing was brought in.`,
    );
  if (new Set(media!.map((m) => m.id)).size < media!.length || new Set(media!.map((m) => m.file)).size < media!.length)
    throw new EditRefused('The archive tells of one file twice. Nothing was brought in.');
  return {
    ...(json as SessionFile),
    session: wholeDocument(session, 'session'),
    versions: versions!.map((v) => ({ ...v, doc: wholeDocument(v.doc, `version "${v.name}"`) })),
  };
}
