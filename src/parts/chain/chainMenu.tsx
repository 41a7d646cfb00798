'use client';
import { ChevronDown, Copy, Download, Save, Trash2, Upload } from 'lucide-react';
import { nanoid } from 'nanoid';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { edit, useDocPart } from '@/client';
import { chainOf, stagesOf, VOICE_CHAINS, type Owner, type Stage } from '@/core/session';
import { Dialog } from '../dialog';
import { useFilePicker } from '../filePicker';
import { CopyDialog } from './copyDialog';
import { plain, usePresetActions, usePresets } from './presets';

/** What can be done with a whole chain: begin from one, keep it, compare it, copy it, exchange it. */
export function ChainMenu({ owner }: { owner: Owner }) {
  const chain = useDocPart((doc) => chainOf(doc, owner));
  const own = usePresets(null);
  const actions = usePresetActions();
  const [asking, setAsking] = useState<'keep' | 'copy' | null>(null);
  const { pick, input } = useFilePicker({
    label: 'File of presets',
    accept: '.json',
    onFiles: ([file]) => void actions.takeIn(file!),
  });
  const put = (stages: readonly Stage[]) =>
    edit({
      type: 'setChain',
      owner,
      chain: stages.map((s) => ({ ...plain(s), id: `${s.type}-${nanoid(6)}` })),
    });
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="btn btn-bare -mr-2 px-2" aria-label="Chain menu">
          Begin from, keep, copy <ChevronDown size={13} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop max-h-110 w-72.5 overflow-auto p-1" sideOffset={4} align="end">
            {VOICE_CHAINS.map((v) => (
              <DropdownMenu.Item
                key={v.name}
                className="menu-item"
                title={v.note}
                onSelect={() => put(stagesOf(v, 'v'))}
              >
                {v.name}
                <span className="small ml-auto text-quiet">{v.category}</span>
              </DropdownMenu.Item>
            ))}
            {own.length > 0 && <DropdownMenu.Separator className="my-1 border-t" />}
            {own.map((p) => (
              <DropdownMenu.Item key={p.id} className="menu-item" onSelect={() => put(p.chain)}>
                {p.name}
                <span className="small ml-auto text-quiet">{p.category}</span>
                <button
                  aria-label={`Remove preset ${p.name}`}
                  className="text-quiet hover:text-stop"
                  onClick={(e) => {
                    e.stopPropagation();
                    void actions.remove(p);
                  }}
                >
                  <Trash2 size={12} />
                </button>
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1 border-t" />
            <DropdownMenu.Item className="menu-item" disabled={chain.length === 0} onSelect={() => setAsking('keep')}>
              <Save size={13} /> Keep this chain…
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" disabled={chain.length === 0} onSelect={() => setAsking('copy')}>
              <Copy size={13} /> Copy to others…
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" asChild>
              <a href="/api/presets" download="wide-room-presets.json">
                <Download size={13} /> Export all presets
              </a>
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={pick}>
              <Upload size={13} /> Take presets in…
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {input}
      <KeepDialog
        open={asking === 'keep'}
        onClose={() => setAsking(null)}
        onKeep={(name, category) => {
          void actions.keep(name, category, null, chain);
          setAsking(null);
        }}
      />
      {asking === 'copy' && <CopyDialog owner={owner} onClose={() => setAsking(null)} />}
    </>
  );
}

interface KeepProps {
  open: boolean;
  onClose: () => void;
  onKeep: (name: string, category: string) => void;
}

/** Asks a name and a category for a preset. */
export function KeepDialog({ open, onClose, onKeep }: KeepProps) {
  const [name, setName] = useState('');
  const [category, setCategory] = useState('own');
  return (
    <Dialog open={open} onClose={onClose} title="Keep as a preset" note="The same name is written over.">
      <form
        className="flex flex-col gap-2.5"
        onSubmit={(e) => {
          e.preventDefault();
          onKeep(name.trim(), category.trim());
          setName('');
        }}
      >
        <input
          autoFocus
          aria-label="Name of the preset"
          className="field"
          placeholder="Name"
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <input
          aria-label="Category of the preset"
          className="field"
          placeholder="Category"
          maxLength={40}
          value={category}
          onChange={(e) => setCategory(e.target.value)}
        />
        <div className="flex justify-end">
          <button className="btn btn-main" disabled={!name.trim()}>
            Keep it
          </button>
        </div>
      </form>
    </Dialog>
  );
}
