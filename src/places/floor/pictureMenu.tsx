'use client';
import { Film, MoreHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useRef, useState, type RefObject } from 'react';
import { toast } from 'sonner';
import { edit, useDoc, useSession } from '@/client';
import { TimecodeField } from '@/parts';

/** Brings a picture in from a file. */
export function PictureChoice() {
  const input = useRef<HTMLInputElement>(null);
  const session = useSession((s) => s.id);
  const start = useDoc().picture?.start ?? 0;
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    try {
      const response = await fetch(`/api/sessions/${session}/picture?name=${encodeURIComponent(file.name)}`, {
        method: 'POST',
        body: file,
      });
      const answer = (await response.json()) as { file: string; message?: string };
      if (!response.ok) throw new Error(answer.message);
      edit({ type: 'setPicture', file: answer.file, start });
    } catch (error) {
      toast.error(`${file.name} was not taken in: ${(error as Error).message}`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <button className="btn" disabled={busy} onClick={() => input.current?.click()}>
        <Film size={14} /> {busy ? 'Taking it in…' : 'Choose a picture…'}
      </button>
      <input
        ref={input}
        type="file"
        accept="video/*"
        hidden
        data-testid="picture-file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) void take(file);
        }}
      />
    </>
  );
}

/** Where the picture stands in time, a window of its own, another file. */
export function PictureMenu({ video }: { video: RefObject<HTMLVideoElement | null> }) {
  const { picture } = useDoc();
  if (!picture) return null;
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label="Picture settings"
        title="Picture settings"
        className="absolute right-2 top-2 grid size-6 place-items-center rounded-[3px] bg-black/60 text-white"
      >
        <MoreHorizontal size={15} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="pop flex w-[250px] flex-col gap-2 p-3" sideOffset={4} align="end">
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
          <PictureChoice />
          <button className="btn btn-bare" onClick={() => edit({ type: 'setPicture', file: null, start: 0 })}>
            Without picture
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
