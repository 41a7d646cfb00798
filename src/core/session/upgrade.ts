import { produce, produceWithPatches, type Patch } from 'immer';
import { DOC_VERSION, NEW_SETTINGS, NEW_SHEET, NEW_TEMPO } from './create';
import { dropLanes, laneParam } from './lanes';
import { newSeat, seatOf } from './seat';
import { EditRefused, type Bus, type SessionDoc, type Track } from './document';

/**
 * A step from one form of the document to the next. It adds what that form has more, at the value that leaves the
 * session as it was, and lets stand what is there: patches of an earlier release may bring old tracks into a new document.
 */
interface Migration {
  to: number;
  what: string;
  run(draft: SessionDoc): void;
}

function give<T extends object>(target: T, members: Partial<T>): void {
  for (const [key, value] of Object.entries(members))
    if ((target as Record<string, unknown>)[key] === undefined) (target as Record<string, unknown>)[key] = value;
}

const MIGRATIONS: readonly Migration[] = [
  {
    to: 2,
    what: 'line sheets, script, tempo map, room tones, working settings',
    run(draft) {
      give(draft, { destinations: {}, tempo: structuredClone(NEW_TEMPO), shelf: [], cues: [], markers: [] });
      // Guides went on playing before there was a choice.
      const settings = { ...structuredClone(NEW_SETTINGS), guides: 'play' as const };
      give(draft, { settings });
      give(draft.settings, settings);
      for (const track of draft.tracks) give(track, { anchor: 'time', guide: false });
      for (const line of draft.lines) give(line, { sheet: { ...NEW_SHEET }, record: 'both' });
    },
  },
  {
    to: 3,
    what: 'sends, trims, returns kept apart per stem, several references, linked limiting',
    run(draft) {
      for (const track of draft.tracks) give<Track>(track, { sends: [] });
      for (const bus of draft.buses)
        give<Bus>(bus, {
          trim: 0,
          sends: [],
          rooms: 'shared',
          throughSolo: bus.kind === 'return',
          placement: null,
          leftOut: [],
          linked: null,
        });
    },
  },
  {
    to: 4,
    what: 'lanes: values that follow the timeline',
    run(draft) {
      give(draft, { lanes: {} });
    },
  },
  {
    to: 5,
    what: 'solo, arm, what is heard of inputs and the monitor belong to the seats',
    run(draft) {
      // What was set until now is what everybody begins with; patches of old steps bring back rows only.
      if (draft.monitor) {
        const seat = seatOf(draft);
        const usual = (t: Track) => t.hearing === (t.guide ? 'never' : 'armed');
        for (const t of draft.tracks) if (usual(t)) delete seat.hearing[t.id];
        if (JSON.stringify(seat) !== JSON.stringify(newSeat())) give(draft, { newcomer: seat });
      }
      delete draft.monitor;
      for (const t of draft.tracks) for (const member of ['soloed', 'armed', 'hearing'] as const) delete t[member];
      for (const b of draft.buses) delete b.soloed;
    },
  },
];

function migrate(draft: SessionDoc, from: number): void {
  for (const m of MIGRATIONS) if (m.to > from) m.run(draft);
  draft.version = DOC_VERSION;
}

/**
 * A session as stored by an earlier release, in the present form. A session of this release comes back as it is, the
 * same object. Throws EditRefused for one that a later release has made.
 */
export function upgradeDoc(stored: SessionDoc): SessionDoc {
  if (stored.version > DOC_VERSION)
    throw new EditRefused(
      `"${stored.name}" was made by a later release of Wide Room (form ${stored.version}; this one knows ${DOC_VERSION}). It was left as it is; open it with that release.`,
    );
  if (stored.version === DOC_VERSION) return Object.freeze(stored);
  return produce(stored, (draft) => migrate(draft, stored.version));
}

const isWhole = (doc: SessionDoc): boolean =>
  doc.version === DOC_VERSION &&
  Object.values(doc.lanes).every((l) => laneParam(doc, l.target)) &&
  doc.tracks.every((t) => t.sends && !('armed' in t || 'soloed' in t || 'hearing' in t)) &&
  doc.buses.every((b) => b.sends && !('soloed' in b));

/**
 * A document after patches of an earlier step, whole and in the present form, with the patches that make it so: rows of an
 * earlier release lack members, and lanes of what was taken away lead nothing.
 */
export function completed(doc: SessionDoc): { doc: SessionDoc; patches: Patch[]; inverse: Patch[] } {
  if (isWhole(doc)) return { doc, patches: [], inverse: [] };
  const [whole, patches, inverse] = produceWithPatches(doc, (draft) => {
    migrate(draft, 0);
    dropLanes(draft);
  });
  return { doc: whole, patches, inverse };
}
