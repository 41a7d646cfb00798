'use client';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { position, useDoc, useSession, useTransport } from '@/client';
import { frameRate } from '@/core/units';
import { toast } from 'sonner';
import { timecodeOf, useFrame } from '@/parts';
import { Lead } from './lead';
import { PictureFollower } from './pictureFollower';
import { PictureChoice, PictureMenu } from './pictureMenu';
import { usePicture } from './pictureState';

/** Half the time between two repaints of a usual screen (s): on average a frame appears so late. */
const REPAINT = 1 / 120;

/** Corrects a running picture's speed by each frame that is shown: what it shows against what is heard then. */
function useFollow(video: RefObject<HTMLVideoElement | null>, follower: PictureFollower): void {
  const file = useDoc().picture?.file;
  useEffect(() => {
    const v = video.current;
    if (!v) return;
    let handle = 0;
    const look: VideoFrameRequestCallback = (_, { mediaTime, expectedDisplayTime }) => {
      handle = v.requestVideoFrameCallback(look);
      const { doc } = useSession.getState();
      if (v.paused || v.seeking || !doc?.picture) return;
      const shown = performance.now();
      const heard = (position() - doc.picture.start) / doc.format.sampleRate + (expectedDisplayTime - shown) / 1000;
      const step = follower.take(heard - mediaTime - REPAINT, shown / 1000);
      if ('jump' in step) v.currentTime = heard;
      else v.playbackRate = step.rate;
    };
    handle = v.requestVideoFrameCallback(look);
    return () => v.cancelVideoFrameCallback(handle);
  }, [video, follower, file]);
}

/** The picture, held to the sound that is heard. */
export function Picture() {
  const doc = useDoc();
  const video = useRef<HTMLVideoElement>(null);
  const text = useRef<HTMLSpanElement>(null);
  const [follower] = useState(() => new PictureFollower());
  const rate = frameRate(doc.format.frameRate);
  useFrame(() => {
    const v = video.current;
    const at = position();
    if (text.current) text.current.textContent = timecodeOf(doc, at);
    if (!v || !doc.picture || v.readyState < 1) return;
    const { state } = useTransport.getState();
    const seconds = (at - doc.picture.start) / doc.format.sampleRate;
    // Nothing is shown where there is no picture.
    v.style.visibility = seconds >= 0 && seconds < (v.duration || Infinity) ? 'visible' : 'hidden';
    const rolls = (state === 'playing' || state === 'recording') && seconds >= 0 && seconds < v.duration;
    if (!rolls) {
      if (!v.paused) v.pause();
      // The middle of a frame, so that rounding never shows its neighbour.
      const frame = Math.floor(Math.max(0, seconds) * (rate.num / rate.den) + 1e-6);
      const wanted = Math.min(v.duration || 0, ((frame + 0.5) * rate.den) / rate.num);
      if (Math.abs(v.currentTime - wanted) > 0.5 / rate.nominal && !v.seeking) v.currentTime = wanted;
      return;
    }
    if (v.paused && !v.seeking) {
      follower.reset();
      if (Math.abs(seconds - v.currentTime) > 0.5 / rate.nominal) v.currentTime = seconds;
      void v.play().catch(() => {});
    }
  });
  useFollow(video, follower);
  return (
    <div className="relative aspect-video w-full bg-black">
      {doc.picture ? (
        <video
          ref={video}
          src={doc.picture.file}
          muted
          playsInline
          preload="auto"
          className="h-full w-full object-contain"
          aria-label="Picture"
          onLoadedMetadata={(e) => usePicture.setState({ seconds: e.currentTarget.duration || 0 })}
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
