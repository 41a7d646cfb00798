import { BUS_PARAMS, type SessionDoc } from '@/core/session';
import { formatDb } from '@/core/units';
import type { Check } from './check';
import type { Live } from './live';
import { timecode } from './sourceCheck';

/** dB that are left under full scale by a mended trim. */
const LEFT = 0.2;

/** Buses that were driven over full scale before their own chains: in a chain that is no loss, but no figure either. */
export function oversCheck(doc: SessionDoc, { overs = {} }: Live): Check[] {
  return doc.buses.flatMap((bus): Check[] => {
    const over = overs[bus.id];
    if (!over) return [];
    const trim = Math.floor((bus.trim - over.db - LEFT) * 10) / 10;
    const by = Math.round((trim - bus.trim) * 10) / 10;
    return [
      {
        id: `overs/${bus.id}`,
        grade: 'warn',
        place: 'flow',
        about: [bus.id],
        title: `${bus.name} went over ${over.count === 1 ? 'once' : `${over.count} times`} before its chain`,
        why: `Highest ${formatDb(over.db, 1, true)} dBFS at ${timecode(doc, over.at)}. What its chain does depends on that level, and a printed bus without a limiter would clip.`,
        mends:
          trim >= BUS_PARAMS.trim.min
            ? [{ label: `Trim ${formatDb(by)} dB`, edits: [{ type: 'setBus', bus: bus.id, trim }] }]
            : [],
      },
    ];
  });
}
