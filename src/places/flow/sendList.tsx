'use client';
import { clsx } from 'clsx';
import { Plus, X } from 'lucide-react';
import { nanoid } from 'nanoid';
import { DropdownMenu } from 'radix-ui';
import { edit, previewSound, useDoc } from '@/client';
import { circleOf, stemOfTrack, type Tap } from '@/core/paths';
import { KIND_NAMES, SEND_PARAMS, type Bus, type Send, type SessionDoc, type Track } from '@/core/session';
import { Choice, fieldOf, NumberField } from '@/parts';

const TAPS: readonly { value: Tap; label: string }[] = [
  { value: 'arriving', label: 'as it arrives' },
  { value: 'before', label: 'before level' },
  { value: 'after', label: 'after level' },
];

const NEW_RETURN = '+return';

/** Buses that a send may lead to: not those that would close a circle, and no reference, which stems alone make. */
const targets = (doc: SessionDoc, owner: Track | Bus): Bus[] =>
  doc.buses.filter((b) => b.kind !== 'reference' && circleOf(doc, owner.id, b.id) === null);

/** Copies of a track's or bus's sound to returns and other buses. */
export function SendList({ owner }: { owner: Track | Bus }) {
  const doc = useDoc();
  const add = (to: string) => {
    const send = { type: 'addSend', owner: owner.id, id: `send-${nanoid(8)}`, level: -12 } as const;
    if (to !== NEW_RETURN) return edit({ ...send, to });
    const id = `return-${nanoid(6)}`;
    // It comes back in the stem of the first sound that is sent to it.
    const stem = stemOfTrack(doc, owner.destination);
    const count = doc.buses.filter((b) => b.kind === 'return').length + 1;
    const name = count === 1 ? 'Return' : `Return ${count}`;
    edit(
      {
        type: 'addTracks',
        tracks: [{ id, name, layout: doc.format.layout, kind: 'return', destination: stem?.id ?? null }],
      },
      { ...send, to: id },
    );
  };
  const free = targets(doc, owner);
  const item = (b: Bus) => (
    <DropdownMenu.Item key={b.id} className="menu-item" onSelect={() => add(b.id)}>
      {b.name} <span className="small ml-auto pl-4 text-quiet">{KIND_NAMES[b.kind]}</span>
    </DropdownMenu.Item>
  );
  return (
    <>
      <h4 className="mb-1 mt-3 flex items-center justify-between font-[580]">
        Sends
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="btn btn-bare -mr-2" aria-label={`New send of ${owner.name}`}>
            <Plus size={14} /> Send
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={4} className="pop max-h-80 overflow-auto p-1">
              {free.filter((b) => b.kind === 'return').map(item)}
              <DropdownMenu.Item className="menu-item" onSelect={() => add(NEW_RETURN)}>
                New return
              </DropdownMenu.Item>
              <DropdownMenu.Separator className="my-1 border-t" />
              {free.filter((b) => b.kind !== 'return').map(item)}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </h4>
      {owner.sends.length === 0 && <p className="small text-quiet">None.</p>}
      {owner.sends.map((send) => (
        <SendRow key={send.id} owner={owner} send={send} />
      ))}
    </>
  );
}

function SendRow({ owner, send }: { owner: Track | Bus; send: Send }) {
  const doc = useDoc('buses');
  const name = doc.buses.find((b) => b.id === send.to)?.name ?? send.to;
  const set = (part: { level?: number; on?: boolean; tap?: Tap }) =>
    ({ type: 'setSend', owner: owner.id, send: send.id, ...part }) as const;
  return (
    <div
      className={clsx(
        'grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-x-2 border-b py-1',
        !send.on && 'opacity-60',
      )}
    >
      <span className="truncate">{name}</span>
      <NumberField
        label={`Send of ${owner.name} to ${name}`}
        value={send.level}
        {...fieldOf(SEND_PARAMS.level)}
        onPreview={(level) => previewSound(set({ level }))}
        onChange={(level) => edit(set({ level }))}
      />
      <span className="flex items-center gap-1">
        <button
          className="chip"
          aria-pressed={send.on}
          aria-label={`Send of ${owner.name} to ${name} on`}
          onClick={() => edit(set({ on: !send.on }))}
        >
          {send.on ? 'on' : 'off'}
        </button>
        <button
          className="btn btn-bare px-1"
          aria-label={`Remove the send of ${owner.name} to ${name}`}
          onClick={() => edit({ type: 'removeSend', owner: owner.id, send: send.id })}
        >
          <X size={13} />
        </button>
      </span>
      <Choice
        look="bare"
        className="small -ml-1 text-quiet"
        label={`Where the send of ${owner.name} to ${name} is taken`}
        value={send.tap}
        options={TAPS}
        onChange={(tap) => edit(set({ tap }))}
      />
    </div>
  );
}
