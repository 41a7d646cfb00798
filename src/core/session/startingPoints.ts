import { newBus, newSession, newStage, newTrack } from './create';
import type { SessionDoc, SessionFormat, Stage } from './document';
import type { LayoutId } from '@/core/speakers';

/** A set-up to begin with: what it is for, and the session it makes. */
export interface StartingPoint {
  id: string;
  name: string;
  category: string;
  note: string;
  /** The layout it is meant for; another one may be chosen. */
  layout: LayoutId;
  make(name: string, code: string, format: SessionFormat): SessionDoc;
}

/** A voice through a chain that asks little: low cut, gentle compression. Values are common practice, no source. */
const voice = (id: string): Stage[] => [
  newStage(`${id}-lowCut`, 'lowCut', true),
  newStage(`${id}-deEsser`, 'deEsser', false),
  newStage(`${id}-compressor`, 'compressor', false),
];

const tracks = (
  doc: SessionDoc,
  rows: readonly (readonly [id: string, name: string, layout: LayoutId, to: string, more?: 'guide' | 'voice'])[],
): void => {
  doc.tracks = rows.map(([id, name, layout, to, more]) => {
    const track = newTrack(id, name, layout, to);
    if (more === 'guide') track.guide = true;
    if (more === 'voice') track.chain = voice(id);
    return track;
  });
};

/** Leaves only the named stems. */
function keepStems(doc: SessionDoc, ...ids: string[]): void {
  doc.buses = doc.buses.filter((b) => b.kind !== 'stem' || ids.includes(b.id));
  doc.deliverables = doc.deliverables.filter((d) => doc.buses.some((b) => b.id === d.bus));
}

const limiter = (id: string): Stage => newStage(`${id}-limiter`, 'limiter', true);

export const STARTING_POINTS: readonly StartingPoint[] = [
  {
    id: 'narration',
    name: 'Narration with room tone',
    category: 'voice',
    note: 'One narrator, a track of room tone under the gaps, one stem.',
    layout: 'stereo',
    make(name, code, format) {
      const doc = newSession(name, code, format);
      keepStems(doc, 'nar');
      tracks(doc, [
        ['narrator', 'Narrator', 'mono', 'nar', 'voice'],
        ['tone', 'Room tone', 'mono', 'nar'],
      ]);
      doc.destinations = { mono: 'nar' };
      return doc;
    },
  },
  {
    id: 'replacement',
    name: 'Replacement lines for picture',
    category: 'voice',
    note: 'Guide track that dims while recording, three character tracks, one for breaths.',
    layout: 'lcr',
    make(name, code, format) {
      const doc = newSession(name, code, format);
      keepStems(doc, 'dia', 'efx');
      tracks(doc, [
        ['guide', 'Guide', 'mono', 'dia', 'guide'],
        ['lines-1', 'Lines 1', 'mono', 'dia', 'voice'],
        ['lines-2', 'Lines 2', 'mono', 'dia', 'voice'],
        ['lines-3', 'Lines 3', 'mono', 'dia', 'voice'],
        ['breaths', 'Breaths and efforts', 'mono', 'dia'],
      ]);
      doc.destinations = { mono: 'dia', stereo: 'efx' };
      doc.settings.guides = 'dim';
      doc.settings.preRoll = 3;
      return doc;
    },
  },
  {
    id: 'film',
    name: 'Dialogue and effects mix',
    category: 'mix',
    note: 'Five stems with a limiter each, reference with a limiter, stereo fold-down.',
    layout: '5.1',
    make(name, code, format) {
      const doc = newSession(name, code, format);
      tracks(doc, [
        ['dialogue-1', 'Dialogue 1', 'mono', 'dia', 'voice'],
        ['dialogue-2', 'Dialogue 2', 'mono', 'dia', 'voice'],
        ['narrator', 'Narrator', 'mono', 'nar', 'voice'],
        ['effects-1', 'Effects 1', 'mono', 'efx'],
        ['effects-2', 'Effects 2', 'stereo', 'efx'],
        ['ambience', 'Ambience', format.layout, 'amb'],
        ['music', 'Music', 'stereo', 'mus'],
      ]);
      doc.destinations = { mono: 'dia', stereo: 'efx', [format.layout]: 'amb' };
      for (const bus of doc.buses) bus.chain = [limiter(bus.id)];
      if (format.layout !== 'stereo')
        doc.deliverables.splice(1, 0, { id: 'print-ref-stereo', bus: 'ref', layout: 'stereo', token: 'REF' });
      return doc;
    },
  },
  {
    id: 'installation',
    name: 'Four-channel installation',
    category: 'installation',
    note: 'A quad reference, sound in a ring around the listener; peaks are limited, loudness is free.',
    layout: 'quad',
    make(name, code, format) {
      const doc = newSession(name, code, format);
      keepStems(doc, 'nar', 'amb');
      tracks(doc, [
        ['voice', 'Voice', 'mono', 'nar', 'voice'],
        ['ring', 'Ring', format.layout, 'amb'],
        ['points', 'Points', 'mono', 'amb'],
      ]);
      doc.destinations = { mono: 'nar', [format.layout]: 'amb' };
      doc.limits = { name: 'peaks only', target: null, tolerance: 0, truePeak: -1 };
      return doc;
    },
  },
  {
    id: 'raw',
    name: 'Raw multichannel recording for another mixer',
    category: 'recording',
    note: 'Eight untouched tracks, no chains, one bus as wide as the mix to listen to.',
    layout: 'stereo',
    make(name, code, format) {
      const doc = newSession(name, code, format);
      doc.buses = [newBus('all', 'All', 'AL', 'stem', 0, format.layout, 'ref'), doc.buses.at(-1)!];
      doc.deliverables = [
        { id: 'print-ref', bus: 'ref', layout: format.layout, token: 'REF' },
        { id: 'print-all', bus: 'all', layout: format.layout, token: 'ALL' },
      ];
      tracks(
        doc,
        Array.from({ length: 8 }, (_, i) => [`channel-${i + 1}`, `Channel ${i + 1}`, 'mono' as const, 'all'] as const),
      );
      doc.destinations = { mono: 'all', stereo: 'all' };
      doc.limits = { name: 'peaks only', target: null, tolerance: 0, truePeak: -1 };
      return doc;
    },
  },
];
