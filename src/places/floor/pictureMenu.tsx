'use client';
import { AudioLines, Film, MoreHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState, type RefObject } from 'react';
import { toast } from 'sonner';
import { edit, useDoc } from '@/client';
import { FileButton, TimecodeField } from '@/parts';
import { takePictureIn, takePictureSound } from './pictureIn';

/** Brings a picture in from a file. */
export function PictureChoice() {
  const [busy, setBusy] = useState(false);
  const take = (file: File) => {
    setBusy(true);
    void takePictureIn(file).finally(() => setBusy(false));
  };
  return (
    <FileButton label="Picture file" accept="video/*" disabled={busy} onFile={take}>
      <Film size={14} /> {busy ? 'Taking it in…' : 'Choose a picture…'}
    </FileButton>
  );
}

/** Where the picture stands in time, a window of its own, another file. */
export function PictureMenu({ video }: { video: RefObject<HTMLVideoElement | null> }) {
  const { picture } = useDoc('picture');
  const [busy, setBusy] = useState(false);
  if (!picture) return null;
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label="Picture settings"
        title="Picture settings"
        className="absolute right-2 top-2 grid size-6 place-items-center rounded-sm bg-black/60 text-white"
      >
        <MoreHorizontal size={15} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="pop flex w-62.5 flex-col gap-2 p-3" sideOffset={4} align="end">
          <label className="flex items-center justify-between">
            <span className="text-quiet">first frame at</span>
            <TimecodeField
              label="First frame of the picture"
              sample={picture.start}
              onChange={(start) => edit({ type: 'setPicture', file: picture.file, start })}
            />
          </label>
          <button
            className="btn"
            onClick={() =>
              void video.current
                ?.requestPictureInPicture()
                .catch(() => toast.error('This browser gives the picture no window of its own.'))
            }
          >
            In a window of its own
          </button>
          {picture.sound && (
            <button
              className="btn"
              disabled={busy}
              title="On a track of its own, where the picture stands"
              onClick={() => {
                setBusy(true);
                void takePictureSound(picture).finally(() => setBusy(false));
              }}
            >
              <AudioLines size={14} /> {busy ? 'Taking it in…' : 'Bring its sound in'}
            </button>
          )}
          <PictureChoice />
          <button className="btn btn-bare" onClick={() => edit({ type: 'setPicture', file: null, start: 0 })}>
            Without picture
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
