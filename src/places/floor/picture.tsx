'use client';
import { useRef } from 'react';
import { position, useDoc, useSession, useTransport } from '@/client';
import { toast } from 'sonner';
import { timecodeOf, useFrame, drawText } from '@/parts';
import { HeldPicture, type Clock } from './heldPicture';
import { Lead } from './lead';
import { PictureChoice, PictureMenu } from './pictureMenu';
import { usePicture } from './pictureState';

/** What is heard in this window. */
const heard: Clock = {
  position,
  rolls() {
    const { state } = useTransport.getState();
    return state === 'playing' || state === 'recording';
  },
};

function secondsToLine(): number | null {
  const { state, plan } = useTransport.getState();
  const rate = useSession.getState().doc?.format.sampleRate ?? 48_000;
  return plan?.cue && state === 'recording' ? (plan.in - position()) / rate : null;
}

/** The picture, held to the sound that is heard. */
export function Picture() {
  const doc = useDoc('picture', 'format', 'settings');
  const video = useRef<HTMLVideoElement>(null);
  const text = useRef<HTMLSpanElement>(null);
  useFrame(() => {
    drawText(text.current, timecodeOf(doc, position()));
  });
  return (
    <div className="relative aspect-video w-full bg-black">
      {doc.picture ? (
        <HeldPicture
          picture={doc.picture}
          format={doc.format}
          clock={heard}
          video={video}
          onSeconds={(seconds) => usePicture.setState({ seconds })}
          onUnplayable={() =>
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
      <Lead lead={doc.settings.lead} left={secondsToLine} />
      {doc.picture && <PictureMenu video={video} />}
      <span ref={text} className="figure absolute bottom-2 left-2 rounded-sm bg-black/75 px-1.5 py-0.5 text-white" />
    </div>
  );
}
