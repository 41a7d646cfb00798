'use client';
import { ChevronDown, ChevronUp, Copy, GripVertical, Plus, Save, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useState, type HTMLAttributes } from 'react';
import { edit, useDoc, watchChain, useDocPart } from '@/client';
import { chainDelay } from '@/core/engine';
import { chainOf, type Owner, type SessionDoc, type Stage } from '@/core/session';
import type { LayoutId } from '@/core/speakers';
import { defaultsOf, stageKind, STAGE_KINDS, type StageValues } from '@/core/stages';
import { Meter } from '../meter';
import { SortableList } from '../sortableList';
import { ChainMenu, KeepDialog } from './chainMenu';
import { CompareChains, Matched } from './compareChains';
import { CopyDialog } from './copyDialog';
import { Curve } from './curve';
import { plain, usePresetActions, usePresets } from './presets';
import { ReductionBar } from './reductionBar';
import { ReductionHistory } from './reductionHistory';
import { RoomFacts } from './roomFacts';
import { StageFields } from './stageFields';

/** The chain of a line, track or bus: stages in order, each with its values, curve and gain reduction. */
export function ChainView({ owner }: { owner: Owner }) {
  const doc = useDoc('format');
  const chain = useDocPart((d) => chainOf(d, owner));
  const [open, setOpen] = useState<string | null>(null);
  useEffect(() => watchChain(owner.id, open), [owner.id, open]);
  const delay = (chainDelay(chain, doc.format.sampleRate) / doc.format.sampleRate) * 1000;
  return (
    <section aria-label="Chain">
      <div className="mb-1.5 flex items-center justify-between">
        <CompareChains owner={owner} open={open} />
        <ChainMenu owner={owner} />
      </div>
      <Matched owner={owner} />
      <SortableList
        label="Stages of the chain"
        className="flex flex-col gap-2"
        ids={chain.map((s) => s.id)}
        onOrder={(_, { id, to }) => edit({ type: 'moveStage', owner, stage: id, to })}
      >
        {(id, handle) => {
          const place = chain.findIndex((s) => s.id === id);
          return (
            <StageCard
              owner={owner}
              stage={chain[place]!}
              handle={handle}
              open={open === id}
              onOpen={() => setOpen(open === id ? null : id)}
              place={place}
              last={place === chain.length - 1}
            />
          );
        }}
      </SortableList>
      <div className="mt-2 flex items-center justify-between">
        <AddStage owner={owner} />
        <span className="small text-quiet">
          delay <span className="figure">{delay.toFixed(1)} ms</span>
        </span>
      </div>
    </section>
  );
}

function AddStage({ owner }: { owner: Owner }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn btn-bare -ml-2">
        <Plus size={14} /> Stage
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="pop min-w-45 p-1" sideOffset={4} align="start">
          {STAGE_KINDS.map((k) => (
            <DropdownMenu.Item
              key={k.type}
              className="menu-item"
              onSelect={() => edit({ type: 'addStage', owner, id: `${k.type}-${nanoid(6)}`, stage: k.type })}
            >
              {k.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const layoutOfOwner = (doc: SessionDoc, { kind, id }: Owner): LayoutId =>
  kind === 'line' ? 'mono' : ([...doc.tracks, ...doc.buses].find((n) => n.id === id)?.layout ?? 'mono');

interface StageCardProps {
  owner: Owner;
  stage: Stage;
  handle: HTMLAttributes<HTMLElement>;
  open: boolean;
  onOpen: () => void;
  place: number;
  last: boolean;
}

function StageCard({ owner, stage, handle, open, onOpen, place, last }: StageCardProps) {
  const kind = stageKind(stage.type);
  const doc = useDoc('format');
  const layout = useDocPart((d) => layoutOfOwner(d, owner));
  const [copying, setCopying] = useState(false);
  const { sampleRate } = doc.format;
  const late = (kind.delay(stage.values, sampleRate) / sampleRate) * 1000;
  const move = (to: number) => edit({ type: 'moveStage', owner, stage: stage.id, to });
  return (
    <article className="rounded-md border bg-panel" data-stage={stage.type}>
      <header className="flex items-center gap-2 px-2 py-1.5">
        <button
          {...handle}
          aria-label={`Move ${kind.name}`}
          title="Drag, or Space and arrow keys"
          className="-mr-1 cursor-grab text-quiet/60"
        >
          <GripVertical size={13} />
        </button>
        <button
          role="switch"
          aria-checked={stage.on}
          aria-label={`${kind.name} on`}
          title={stage.on ? 'Bypass' : 'Switch on'}
          className="grid size-5 place-items-center"
          onClick={() => edit({ type: 'switchStage', owner, stage: stage.id, on: !stage.on })}
        >
          <span
            className="size-2.25 rounded-full border"
            style={
              stage.on ? { background: 'var(--fine)', borderColor: 'var(--fine)' } : { borderColor: 'var(--quiet)' }
            }
          />
        </button>
        <button
          className="flex min-w-0 flex-1 items-center justify-between gap-2 text-left"
          onClick={onOpen}
          aria-expanded={open}
        >
          <span className="font-[580]">{kind.name}</span>
          <span className="figure truncate text-quiet">{stage.on ? kind.summary(stage.values) : 'off'}</span>
        </button>
      </header>
      <div className="flex items-center gap-1.5 px-2.5 pb-1.5">
        <span className="small text-quiet">in</span>
        <Meter keys={[`stage-in/${stage.id}`]} label={`Level into ${kind.name}`} height={4} className="flex-1" />
        <span className="small text-quiet">out</span>
        <Meter keys={[`stage-out/${stage.id}`]} label={`Level out of ${kind.name}`} height={4} className="flex-1" />
        {late > 0 && (
          <span
            className="figure small text-quiet"
            title={`${kind.name} delays the sound by so much; it is compensated`}
          >
            {late.toFixed(1)} ms
          </span>
        )}
      </div>
      {kind.transfer && stage.on && (
        <div className="flex items-center gap-2 px-2.5 pb-1.5">
          <span className="small text-quiet">reduction</span>
          <ReductionBar stage={stage.id} />
        </div>
      )}
      {open && (
        <div className="border-t px-2.5 pb-2 pt-1.5">
          {(kind.response || kind.transfer) && <Curve stage={stage} />}
          {kind.transfer && <ReductionHistory stage={stage.id} />}
          {stage.type === 'reverb' && <RoomFacts stage={stage} layout={layout} />}
          <Presets owner={owner} stage={stage} />
          <StageFields owner={owner} stage={stage} />
          <div className="mt-1 flex justify-end gap-1">
            <button
              className="chip"
              aria-label="Earlier in the chain"
              title="Earlier in the chain"
              disabled={place === 0}
              onClick={() => move(place - 1)}
            >
              <ChevronUp size={13} />
            </button>
            <button
              className="chip"
              aria-label="Later in the chain"
              title="Later in the chain"
              disabled={last}
              onClick={() => move(place + 1)}
            >
              <ChevronDown size={13} />
            </button>
            <button
              className="chip"
              aria-label="Copy stage to others"
              title="Copy it to other lines, tracks and buses"
              onClick={() => setCopying(true)}
            >
              <Copy size={13} />
            </button>
            <button
              className="chip"
              aria-label="Remove stage"
              title="Remove stage"
              onClick={() => edit({ type: 'removeStage', owner, stage: stage.id })}
            >
              <Trash2 size={13} />
            </button>
          </div>
        </div>
      )}
      {copying && <CopyDialog owner={owner} stage={stage.id} onClose={() => setCopying(false)} />}
    </article>
  );
}

function Presets({ owner, stage }: { owner: Owner; stage: Stage }) {
  const own = usePresets(stage.type);
  const { keep } = usePresetActions();
  const [keeping, setKeeping] = useState(false);
  // A preset is a whole setting: what it does not name stands as usual.
  const put = (values: StageValues) =>
    edit({
      type: 'setStage',
      owner,
      stage: stage.id,
      values: { ...defaultsOf(stageKind(stage.type)), ...values },
    });
  return (
    <div className="my-1.5 flex flex-wrap gap-1">
      {stageKind(stage.type).presets.map((p) => (
        <button key={p.name} className="chip" onClick={() => put(p.values)}>
          {p.name}
        </button>
      ))}
      {own.map((p) => (
        <button key={p.id} className="chip" title={p.category} onClick={() => put(p.chain[0]!.values)}>
          {p.name}
        </button>
      ))}
      <button
        className="chip"
        aria-label="Keep this setting as a preset"
        title="Keep this setting as a preset"
        onClick={() => setKeeping(true)}
      >
        <Save size={12} />
      </button>
      <KeepDialog
        open={keeping}
        onClose={() => setKeeping(false)}
        onKeep={(name, category) => {
          void keep(name, category, stage.type, [plain(stage)]);
          setKeeping(false);
        }}
      />
    </div>
  );
}
