'use client';
import { FolderOpen } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, stored, useSession } from '@/client';
import { useFilePicker } from '@/parts';
import { useBringSession } from './bringSession';
import { SessionDesk } from './sessionDesk';

/** The sessions of this machine; whole sessions go to another one, and come from there. */
export function OtherSessions() {
  const [list, setList] = useState<{ id: string; name: string }[]>([]);
  const here = useSession((s) => s.id);
  const router = useRouter();
  const [desk, setDesk] = useState(false);
  const bring = useBringSession();
  const { pick, input } = useFilePicker({
    label: 'Archive of a session',
    accept: '.zip,application/zip',
    onFiles: ([file]) => void bring(file!),
  });
  const handOver = async (history: boolean) => {
    try {
      await stored();
      const { missing } = await ask<{ missing: string[] }>(`/api/sessions/${here}/archive`, {});
      if (missing.length > 0)
        toast.warning(
          `${missing.join(', ')} is missing from the session's folder, and will be missing in the archive.`,
          {
            duration: 12_000,
          },
        );
      window.location.assign(`/api/sessions/${here}/archive${history ? '?history' : ''}`);
    } catch (error) {
      toast.error((error as Error).message, { duration: 10_000 });
    }
  };
  return (
    <>
      <DropdownMenu.Root
        onOpenChange={(open) => open && void ask<{ id: string; name: string }[]>('/api/sessions').then(setList)}
      >
        <DropdownMenu.Trigger className="btn" data-action="brief.open">
          <FolderOpen size={14} /> Open
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop max-h-105 min-w-62.5 overflow-auto p-1" sideOffset={4} align="end">
            {list.map((s) => (
              <DropdownMenu.Item
                key={s.id}
                className="menu-item"
                disabled={s.id === here}
                onSelect={() => router.push(`/s/${s.id}/brief`)}
              >
                {s.name}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1 border-t" />
            <DropdownMenu.Item className="menu-item" onSelect={() => setDesk(true)}>
              All sessions…
              <span className="small ml-auto text-quiet">rename, duplicate, remove</span>
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => void handOver(false)}>
              This session as one archive
              <span className="small ml-auto text-quiet">files, versions</span>
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => void handOver(true)}>
              … with every step of it
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={pick}>
              Bring a session in…
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {desk && <SessionDesk onClose={() => setDesk(false)} />}
      {input}
    </>
  );
}
