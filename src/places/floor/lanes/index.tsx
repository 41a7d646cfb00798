'use client';
import { useDoc } from '@/client';
import { useView } from '../view';
import type { LaneProps } from './lane';
import { PictureLane } from './pictureLane';
import { ScriptLane } from './scriptLane';
import { TempoLane } from './tempoLane';

export { CUE_COLOUR } from './scriptLane';

/** What stands above the rows at its times: picture, bars where something goes by them, words and markers. */
export function Lanes(props: LaneProps) {
  const doc = useDoc('tempo', 'settings', 'tracks', 'picture', 'cues', 'markers');
  const placed = useView((s) => s.zoom > 0);
  if (!placed) return null;
  const musical =
    doc.tempo.tempos.length > 1 || doc.settings.click.when !== 'never' || doc.tracks.some((t) => t.anchor === 'music');
  return (
    <>
      {doc.picture && <PictureLane {...props} />}
      {musical && <TempoLane {...props} />}
      {(doc.cues.length > 0 || doc.markers.length > 0) && <ScriptLane {...props} />}
    </>
  );
}
