'use client';
import { useRef, type PointerEvent } from 'react';
import { edit, preview, useDoc, useDocPart } from '@/client';
import { pictureName } from '@/core/session';
import { frameOf } from '../snapping';
import { usePicture } from '../pictureState';
import { Lane, usePlaces, type LaneProps } from './lane';

/** Where the picture stands; pulled to another place by whole frames. */
export function PictureLane(props: LaneProps) {
  const doc = useDoc('picture', 'format');
  const { picture } = doc;
  const frame = useDocPart(frameOf);
  const seconds = usePicture((s) => s.seconds);
  const { zoom, x } = usePlaces(props.width);
  const pulled = useRef<{ x: number; start: number } | null>(null);
  if (!picture) return null;
  const at = (e: PointerEvent) => {
    const { x: from, start } = pulled.current!;
    const frames = Math.round(((e.clientX - from) * zoom) / frame);
    return { type: 'setPicture' as const, file: picture.file, start: Math.max(0, Math.round(start + frames * frame)) };
  };
  return (
    <Lane {...props} label="picture" name="Picture in time" height={18}>
      <div
        className="small absolute top-0.5 h-3.25 cursor-grab overflow-hidden whitespace-nowrap rounded-sm border bg-raised px-1 text-tiny leading-3 text-quiet"
        style={{
          left: x(picture.start),
          width: Math.max(6, (seconds * doc.format.sampleRate) / zoom),
          // Its name stays in view.
          paddingLeft: Math.max(4, 4 - x(picture.start)),
        }}
        title="The picture; pull it to another place"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          pulled.current = { x: e.clientX, start: picture.start };
        }}
        onPointerMove={(e) => pulled.current && preview(at(e))}
        onPointerUp={(e) => {
          const moved = at(e);
          const { start } = pulled.current!;
          pulled.current = null;
          preview();
          if (moved.start !== start) edit(moved);
        }}
        onPointerCancel={() => {
          pulled.current = null;
          preview();
        }}
      >
        {pictureName(picture.file)}
      </div>
    </Lane>
  );
}
