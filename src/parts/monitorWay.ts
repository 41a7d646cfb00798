import { heardName, useChosenRoom, useDoc, useInRoom, useRooms } from '@/client';
import { layoutOf } from '@/core/speakers';

/** In which layout the monitor is heard, and where: "5.1 → mono → Mixing room". */
export function useMonitorWay(): string {
  const mix = useDoc('format').format.layout;
  const { heardAs, sounds, head } = useInRoom();
  const room = useRooms((s) => s.list);
  const id = useChosenRoom((s) => s.id);
  const name = sounds ? room?.find((r) => r.id === id)?.room.name : undefined;
  const as = heardAs ? [heardName(heardAs)] : [];
  const two = mix === 'stereo' || (heardAs?.as === 'layout' && heardAs.layout === 'stereo');
  const to = name ?? (head ? 'head' : two ? undefined : 'stereo');
  return [layoutOf(mix).name, ...as, ...(to ? [to] : [])].join(' → ');
}
