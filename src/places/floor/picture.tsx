'use client';
import { useRef } from 'react';
import { position, useDoc, useTransport } from '@/client';
import { frameRate } from '@/core/units';
import { toast } from 'sonner';
import { timecodeOf, useFrame } from '@/parts';
import { Lead } from './lead';
import { PictureChoice, PictureMenu } from './pictureMenu';

/** Beyond this the picture jumps instead of gliding (s). */
const JUMP = 0.12;
const MOST_SPEED = 0.06;

/** The picture, held to the audio clock. */
export function Picture() {
  const doc = useDoc();
  const video = useRef<HTMLVideoElement>(null);
  const text = useRef<HTMLSpanElement>(null);
  const rate = frameRate(doc.format.frameRate);
  useFrame(() => {
    const v = video.current;
    const at = position();
    if (text.current) text.current.textContent = timecodeOf(doc, at);
    if (!v || !doc.picture || v.readyState < 1) return;
    const { state } = useTransport.getState();
    const seconds = (at - doc.picture.start) / doc.format.sampleRate;
    const rolls = (state === 'playing' || state === 'recording') && seconds >= 0 && seconds < v.duration;
    if (!rolls) {
      if (!v.paused) v.pause();
      // The middle of a frame, so that rounding never shows its neighbour.
      const frame = Math.floor(Math.max(0, seconds) * (rate.num / rate.den) + 1e-6);
      const wanted = Math.min(v.duration || 0, ((frame + 0.5) * rate.den) / rate.num);
      if (Math.abs(v.currentTime - wanted) > 0.5 / rate.nominal && !v.seeking) v.currentTime = wanted;
      return;
    }
    if (v.paused) void v.play().catch(() => {});
    const error = seconds - v.currentTime;
    if (Math.abs(error) > JUMP && !v.seeking) v.currentTime = seconds;
    v.playbackRate = 1 + Math.max(-MOST_SPEED, Math.min(MOST_SPEED, error * 0.8));
  });
  return (
    <div className="relative aspect-video w-full bg-black">
      {doc.picture ? (
        <video
          ref={video}
          src={doc.picture.file}
          muted
          playsInline
          preload="auto"
          className="h-full w-full object-cover"
          aria-label="Picture"
          onError={() =>
            toast.error(
              'The browser cannot play this picture. Convert it to H.264 or VP9 (an MP4 or WebM file) and bring it in again; everything else goes on without it.',
              { id: 'picture', duration: 15_000 },
            )
          }
        />
      ) : (
        <div className="grid h-full place-content-center gap-2 text-center">
          <p className="small text-quiet">This session has no picture.</p>
          <PictureChoice />
        </div>
      )}
      <Lead />
      {doc.picture && <PictureMenu video={video} />}
      <span ref={text} className="figure absolute bottom-2 left-2 rounded-[3px] bg-black/75 px-1.5 py-0.5 text-white" />
    </div>
  );
}
