'use client';
import { FolderOpen } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { ask, useSession } from '@/client';

/** The sessions of this machine. */
export function OtherSessions() {
  const [list, setList] = useState<{ id: string; name: string }[]>([]);
  const here = useSession((s) => s.id);
  const router = useRouter();
  return (
    <DropdownMenu.Root
      onOpenChange={(open) => open && void ask<{ id: string; name: string }[]>('/api/sessions').then(setList)}
    >
      <DropdownMenu.Trigger className="btn">
        <FolderOpen size={14} /> Open
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="pop max-h-[320px] min-w-[220px] overflow-auto p-1" sideOffset={4} align="end">
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
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
