import { isBus, type SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import type { Check } from './check';

const FOUR = ['fourEncoder', 'fourDecoder'];

/** Four in two stands where there are not four channels: it passes everything as it is. */
export const fourCheck = (doc: SessionDoc): Check[] =>
  [...doc.tracks, ...doc.buses].flatMap((n) =>
    layoutOf(n.layout).speakers.length === 4
      ? []
      : n.chain
          .filter((s) => s.on && FOUR.includes(s.type))
          .map((s): Check => ({
            id: `four/${n.id}/${s.id}`,
            grade: 'warn',
            place: 'flow',
            about: [n.id],
            title: `${stageKind(s.type).name} does nothing on ${n.name}`,
            why: `${n.name} is in ${layoutOf(n.layout).name}; it works on the four channels of a quad. Sound only comes late meanwhile.`,
            mends: [
              {
                label: 'Take it out',
                edits: [{ type: 'removeStage', owner: { kind: isBus(n) ? 'bus' : 'track', id: n.id }, stage: s.id }],
              },
            ],
          })),
  );
