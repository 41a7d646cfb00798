'use client';
import { useEffect, useRef, useState, type RefObject } from 'react';
import type { Picture, SessionFormat } from '@/core/session';
import { frameRate } from '@/core/units';
import { useFrame } from '@/parts';
import { PictureFollower } from './pictureFollower';

/** What a picture is held to. */
export interface Clock {
  /** The sample that is heard now. */
  position(): number;
  rolls(): boolean;
}

/** Half the time between two repaints of a usual screen (s): on average a frame appears so late. */
const REPAINT = 1 / 120;

interface HeldPictureProps {
  picture: Picture;
  format: Pick<SessionFormat, 'sampleRate' | 'frameRate'>;
  clock: Clock;
  /** Where it is fetched from, where that is not its file. */
  src?: string;
  video?: RefObject<HTMLVideoElement | null>;
  onSeconds?: (seconds: number) => void;
  onUnplayable?: () => void;
}

/** A picture that shows the frame of the sound that is heard; nothing outside of its own time. */
export function HeldPicture({ picture, format, clock, src, video, onSeconds, onUnplayable }: HeldPictureProps) {
  const own = useRef<HTMLVideoElement | null>(null);
  const [follower] = useState(() => new PictureFollower());
  const held = useRef({ picture, format, clock });
  const told = useRef<number | null>(null);
  useEffect(() => {
    held.current = { picture, format, clock };
  });
  useFrame(() => {
    const v = own.current;
    if (!v || v.readyState < 1) return;
    // Its event may come before anybody listens; the length stands in the element from then on.
    if (told.current !== v.duration) {
      told.current = v.duration;
      onSeconds?.(Number.isFinite(v.duration) ? v.duration : 0);
    }
    const rate = frameRate(format.frameRate);
    const seconds = (clock.position() - picture.start) / format.sampleRate;
    const inside = seconds >= 0 && seconds < (v.duration || Infinity);
    v.style.visibility = inside ? 'visible' : 'hidden';
    if (!clock.rolls() || !inside) {
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
  // Corrects a running picture's speed by each frame that is shown: what it shows against what is heard then.
  useEffect(() => {
    const v = own.current;
    if (!v) return;
    let handle = 0;
    const look: VideoFrameRequestCallback = (_, { mediaTime, expectedDisplayTime }) => {
      handle = v.requestVideoFrameCallback(look);
      const now = held.current;
      if (v.paused || v.seeking) return;
      const shown = performance.now();
      const since = (now.clock.position() - now.picture.start) / now.format.sampleRate;
      const heard = since + (expectedDisplayTime - shown) / 1000;
      const step = follower.take(heard - mediaTime - REPAINT, shown / 1000);
      if ('jump' in step) v.currentTime = heard;
      else v.playbackRate = step.rate;
    };
    handle = v.requestVideoFrameCallback(look);
    return () => v.cancelVideoFrameCallback(handle);
  }, [follower, picture.file]);
  return (
    <video
      ref={(element) => {
        own.current = element;
        if (video) video.current = element;
      }}
      src={src ?? picture.file}
      muted
      playsInline
      preload="auto"
      className="h-full w-full object-contain"
      aria-label="Picture"
      onError={onUnplayable}
    />
  );
}
