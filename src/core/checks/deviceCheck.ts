import type { SessionDoc } from '@/core/session';
import type { Check } from './check';
import type { Live } from './live';

/** Devices that tracks are patched to and that are not there: told for as long as they are away. */
export function deviceCheck(doc: SessionDoc, live: Live): Check[] {
  if (!live.devices) return [];
  const patched = doc.tracks.flatMap((t) => t.inputs.flatMap((l) => (l ? [{ track: t, line: l }] : [])));
  const used = new Set(doc.lines.filter((l) => patched.some((p) => p.line === l.id)).map((l) => l.device));
  return [...used].flatMap((id): Check[] => {
    const device = live.devices!.get(id);
    if (device && device.state !== 'gone') return [];
    const mine = patched.filter((p) => doc.lines.some((l) => l.id === p.line && l.device === id));
    const tracks = [...new Set(mine.map((p) => p.track))];
    return [
      {
        id: `device-gone/${id}`,
        grade: tracks.some((t) => t.armed) ? 'stop' : 'warn',
        place: 'lineup',
        about: [...tracks.map((t) => t.id), ...mine.map((p) => p.line)],
        title: `${device?.name ?? 'A device that this session uses'} is not there`,
        why: `${tracks.map((t) => t.name).join(', ')} would record silence. ${tracks.length === 1 ? 'Its cords are' : 'Their cords are'} kept, and made again when it is back; another device can take its place in Line-up.`,
        mends: device?.simulated ? [{ label: 'Plug it in', edits: [], act: { device: id, what: 'plug-in' } }] : [],
      },
    ];
  });
}
