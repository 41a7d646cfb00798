import { pathFrom } from '@/core/paths';
import {
  exampleName,
  hullOf,
  isObjects,
  leadInOf,
  objectTracks,
  printName,
  printRanges,
  rangeText,
  timeReference,
} from '@/core/print';
import { canEncode, MONITOR, referenceOf, tokenFor, type SessionDoc } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import type { Check } from './check';

/** Files that cannot be printed as they are ordered: they would share a name, or their bus is gone. */
export const fileCheck = (doc: SessionDoc): Check[] => [
  ...names(doc),
  ...rangeFaults(doc),
  ...missingBuses(doc),
  ...lostEncodings(doc),
  ...emptyObjects(doc),
];

function names(doc: SessionDoc): Check[] {
  const seen = new Map<string, string>();
  const found: Check[] = [];
  for (const d of doc.deliverables) {
    let name: string;
    try {
      name = exampleName(doc, d);
    } catch (error) {
      return [
        {
          id: 'name-pattern',
          grade: 'stop',
          place: 'brief',
          about: [],
          title: 'The name pattern cannot be read',
          why: `${(error as Error).message}.`,
          mends: [],
        },
      ];
    }
    const twin = seen.get(name.toLowerCase());
    if (twin === undefined) {
      seen.set(name.toLowerCase(), d.id);
      continue;
    }
    const token = tokenFor(doc, `${d.token}${layoutOf(d.layout).code}`);
    found.push({
      id: `same-name/${d.id}`,
      grade: 'stop',
      place: 'brief',
      about: [d.bus],
      title: `Two files would be called ${name}`,
      why: 'A print never overwrites a file, so it would not begin.',
      mends: [
        { label: `Call one ${token}`, edits: [{ type: 'setDeliverable', deliverable: d.id, token }] },
        { label: 'Ask it only once', edits: [{ type: 'removeDeliverable', deliverable: d.id }] },
      ],
    });
  }
  return found;
}

/** What is wrong with the ranges that a print would have: none, files of two under one name, one before midnight. */
function rangeFaults(doc: SessionDoc): Check[] {
  const ranges = printRanges(doc);
  const check = (c: Omit<Check, 'grade' | 'place' | 'about'>): Check => ({
    grade: 'stop',
    place: 'print',
    about: [],
    ...c,
  });
  const alone = { label: 'Print the range alone', edits: [{ type: 'setPrinting' as const, by: 'range' as const }] };
  if (ranges.length === 0)
    return [
      check({
        id: 'no-range',
        title: {
          cues: 'There is no cue to print',
          markers: 'There is no marker to print from',
          list: 'The list of ranges is empty',
        }[doc.printing!.by!],
        why: 'A print would have no file.',
        mends: [alone],
      }),
    ];
  const found: Check[] = [];
  const twin = twinOf(doc);
  if (twin)
    found.push(
      check({
        id: 'ranges-one-name',
        title: `Files of ${rangeText(doc, twin[0])} and ${rangeText(doc, twin[1])} would have one name`,
        why: 'A print never overwrites a file, so it would not begin.',
        mends: doc.namePattern.includes('{range}')
          ? [alone]
          : [
              {
                label: 'Put the range into the names',
                edits: [{ type: 'setSession', namePattern: `${doc.namePattern}_{range}` }],
              },
              alone,
            ],
      }),
    );
  const lead = leadInOf(doc);
  if (lead && timeReference(doc, hullOf(ranges).start - lead.frames) < 0)
    found.push(
      check({
        id: 'lead-in-midnight',
        title: 'The lead-in would begin before 00:00:00:00',
        why: 'A file tells its start as the time since midnight; there is none before it.',
        mends: [{ label: 'No lead-in', edits: [{ type: 'setPrinting', leadIn: 0 }] }],
      }),
    );
  return found;
}

/** Two ranges of which a file would have the same name. */
function twinOf(doc: SessionDoc) {
  const seen = new Map<string, ReturnType<typeof printRanges>[number]>();
  // Ranges differ in the same tokens for each file: the first one speaks for all.
  const [d] = doc.deliverables;
  if (!d) return null;
  for (const range of printRanges(doc)) {
    let name: string;
    try {
      name = printName(doc, d, { version: 1, range, made: '' }).toLowerCase();
    } catch {
      // The pattern itself cannot be read, which is told by itself.
      return null;
    }
    const other = seen.get(name);
    if (other) return [other, range] as const;
    seen.set(name, range);
  }
  return null;
}

/** Files that can no more be encoded as they were asked for: the mix became another. */
const lostEncodings = (doc: SessionDoc): Check[] =>
  doc.deliverables.flatMap((d): Check[] => {
    const bus = doc.buses.find((b) => b.id === d.bus);
    if (!d.encode || !bus || canEncode(bus.layout, d.encode)) return [];
    return [
      {
        id: `encode/${d.id}`,
        grade: 'stop',
        place: 'brief',
        about: [d.bus],
        title: `${d.token} cannot be encoded from ${layoutOf(bus.layout).name}`,
        why: 'It would be printed as a plain fold-down, and decoded to nothing that was meant.',
        mends: [{ label: 'Ask it plain', edits: [{ type: 'setDeliverable', deliverable: d.id, encode: null }] }],
      },
    ];
  });

/** Files of objects to which nothing comes that is one. */
const emptyObjects = (doc: SessionDoc): Check[] =>
  doc.deliverables
    .filter((d) => isObjects(doc, d) && objectTracks(doc, d.bus).length === 0)
    .map((d) => ({
      id: `no-objects/${d.id}`,
      grade: 'stop' as const,
      place: 'brief' as const,
      about: [d.bus],
      title: `${d.token} would hold no object`,
      why: 'Objects are sources of one channel with a place of their own; none comes to its bus.',
      mends: [{ label: 'Ask it as a mix', edits: [{ type: 'setDeliverable', deliverable: d.id, adm: 'none' }] }],
    }));

const missingBuses = (doc: SessionDoc): Check[] =>
  doc.deliverables
    .filter((d) => ![...doc.buses, ...doc.tracks].some((n) => n.id === d.bus))
    .map((d) => ({
      id: `no-bus/${d.id}`,
      grade: 'stop' as const,
      place: 'brief' as const,
      about: [],
      title: `The bus of ${d.token} is gone`,
      why: 'The file cannot be printed.',
      mends: [
        {
          label: 'Take it out of the brief',
          edits: [{ type: 'removeDeliverable' as const, deliverable: d.id }],
        },
      ],
    }));

/** What is wrong with the order itself, beside its files: new tracks that would pass by the reference. */
export function briefCheck(doc: SessionDoc): Check[] {
  const reference = referenceOf(doc);
  if (!reference) return [];
  return (Object.entries(doc.destinations) as [LayoutId, string][])
    .filter(([, to]) => to === MONITOR || !pathFrom(doc, to).some((b) => b.id === reference.id))
    .map(([layout]) => ({
      id: `default/${layout}`,
      grade: 'warn' as const,
      place: 'brief' as const,
      about: [],
      title: `New ${layoutOf(layout).name} tracks would pass by ${reference.name}`,
      why: 'They would be heard, but no printed file would contain them, and no limiter would hold them.',
      mends: [
        {
          label: 'No default for this width',
          edits: [{ type: 'setDefaultDestination' as const, layout, destination: null }],
        },
      ],
    }));
}
