'use client';
import { clsx } from 'clsx';
import { GripVertical, Plus, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { edit, useDoc, useDocPart, useLayouts } from '@/client';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import { exampleName } from '@/core/print';
import {
  wordLengthOf,
  fileFormOf,
  limitsOf,
  stemsOf,
  tokenFor,
  WORD_LENGTHS,
  type Bus,
  type Deliverable,
  type SessionDoc,
} from '@/core/session';
import { labelsIn, layoutOf, ordersOf, widthOf, type ChannelOrder, type LayoutId } from '@/core/speakers';
import { FileMaking } from './fileMaking';
import { formKey, formsOf } from './fileForm';
import { formatBytes, formatDb } from '@/core/units';
import { Choice, SortableList, StemTag, TextField } from '@/parts';
import { LimitsChoice } from './limitsChoice';
import { MixOfStems } from './mixOfStems';
import { NamePattern } from './namePattern';

export function nameOrFault(doc: SessionDoc, d: Deliverable, version = 1): string {
  try {
    return exampleName(doc, d, version);
  } catch (error) {
    return (error as Error).message;
  }
}

const bytesOf = (doc: SessionDoc, d: Deliverable): number =>
  DATA_OFFSET +
  (doc.range.end - doc.range.start) * widthOf(d.layout) * bytesPerSample(formatOfWord(wordLengthOf(doc, d)));

const COLUMNS =
  'grid grid-cols-[20px_minmax(140px,1fr)_92px_82px_132px_76px_76px_112px_minmax(200px,1.4fr)_72px_24px] items-center gap-x-2';

/** What must be handed over, with the names the files will have; every word of a row can be changed. */
export function Deliverables() {
  const doc = useDoc('deliverables', 'range', 'format', 'limits');
  const total = useDocPart((whole) => whole.deliverables.reduce((sum, d) => sum + bytesOf(whole, d), 0));
  const seconds = (doc.range.end - doc.range.start) / doc.format.sampleRate;
  return (
    <section aria-label="To hand over" className="flex min-h-0 flex-col">
      <div className="mb-1.5 flex items-center gap-3">
        <h2 className="title">To hand over</h2>
        <LimitsChoice
          label="Loudness limits of the job"
          action="brief.limits"
          limits={doc.limits}
          onChange={(limits) => limits && edit({ type: 'setLimits', limits })}
        />
        <span className="small text-quiet">
          {seconds.toFixed(0)} s · {formatBytes(total)}
        </span>
        <NamePattern />
        <AddDeliverable />
      </div>
      <div className="min-h-0 overflow-auto">
        <div className="min-w-272.5">
          <div className={clsx(COLUMNS, 'small sticky top-0 z-1 border-b bg-ground pb-1 text-quiet')}>
            <span />
            <span>what</span>
            <span>layout</span>
            <span>channels</span>
            <span>limits</span>
            <span className="text-right">LUFS</span>
            <span className="text-right">dBTP</span>
            <span>bits</span>
            <span>file name</span>
            <span className="text-right">size</span>
            <span />
          </div>
          <SortableList
            label="Deliverables"
            ids={doc.deliverables.map((d) => d.id)}
            onOrder={(order) => edit({ type: 'orderDeliverables', order })}
          >
            {(id, handle) => <Row deliverable={doc.deliverables.find((d) => d.id === id)!} handle={handle} />}
          </SortableList>
        </div>
      </div>
    </section>
  );
}

function Row({ deliverable: d, handle }: { deliverable: Deliverable; handle: React.HTMLAttributes<HTMLElement> }) {
  const doc = useDoc('buses', 'folds');
  const layouts = useLayouts();
  const bus = doc.buses.find((b) => b.id === d.bus);
  const forms = formsOf(doc, d, bus, layouts);
  const reference = bus?.kind === 'reference';
  const what = reference && d.layout !== bus.layout ? 'Fold-down' : (bus?.name ?? 'missing bus');
  const limits = useDocPart((whole) => limitsOf(whole, d));
  const word = useDocPart((whole) => wordLengthOf(whole, d));
  const name = useDocPart((whole) => nameOrFault(whole, d));
  const bytes = useDocPart((whole) => bytesOf(whole, d));
  const target = reference || d.limits ? limits.target : null;
  const set = (part: Omit<Extract<Parameters<typeof edit>[0], { type: 'setDeliverable' }>, 'type' | 'deliverable'>) =>
    edit({ type: 'setDeliverable', deliverable: d.id, ...part });
  return (
    <div className={clsx(COLUMNS, 'group h-7.25 border-b')} data-deliverable={d.id}>
      <button {...handle} aria-label={`Move ${what}`} title="Drag, or Space and arrow keys" className="text-quiet/60">
        <GripVertical size={13} />
      </button>
      <span className="flex min-w-0 items-center gap-2 font-[560]">
        {bus && !reference && <StemTag bus={bus} />}
        <span className="truncate">{what}</span>
        <TextField
          label={`Letters of ${what} in the file name`}
          value={d.token}
          className="figure w-[7ch] text-quiet"
          onChange={(token) => set({ token })}
        />
      </span>
      <Choice
        label={`Layout of ${what}`}
        look="bare"
        value={formKey(d)}
        options={forms.map(({ key, name }) => ({ value: key, label: name }))}
        onChange={(key) => set(forms.find((f) => f.key === key)!.form)}
      />
      <OrderOfFile deliverable={d} what={what} onChange={(order) => set({ order })} />
      <LimitsChoice
        forFile
        label={`Limits of ${what}`}
        limits={d.limits ?? null}
        onChange={(own) => (own ? set({ limits: own }) : set({ commonLimits: true }))}
      />
      <span className="figure text-right">{target === null ? '–' : formatDb(target)}</span>
      <span className="figure text-right">{formatDb(limits.truePeak)}</span>
      <span className="flex items-center">
        <Choice
          label={`Bits of ${what}`}
          look="bare"
          className="figure"
          value={String(word)}
          options={WORD_LENGTHS.map((w) => ({ value: String(w), label: w === 32 ? '32 float' : String(w) }))}
          onChange={(w) => set({ wordLength: Number(w) as 16 | 24 | 32 })}
        />
        <FileMaking deliverable={d} what={what} />
      </span>
      <span className="figure truncate text-quiet">{name}</span>
      <span className="figure text-right text-quiet">{formatBytes(bytes)}</span>
      <button
        aria-label={`Take ${what} ${layoutOf(d.layout).name} out of the brief`}
        title="Take it out of the brief; the bus stays"
        className="text-quiet opacity-0 hover:text-stop focus:opacity-100 group-hover:opacity-100"
        onClick={() => edit({ type: 'removeDeliverable', deliverable: d.id })}
      >
        <Trash2 size={13} />
      </button>
    </div>
  );
}

/** In which order the channels stand in an interleaved file; where there is nothing to choose, nothing. */
function OrderOfFile({
  deliverable: d,
  what,
  onChange,
}: {
  deliverable: Deliverable;
  what: string;
  onChange: (order: ChannelOrder) => void;
}) {
  const { format } = useDoc('format');
  const layout = layoutOf(d.layout);
  const orders = ordersOf(layout);
  if (orders.length < 2) return <span className="small text-quiet">–</span>;
  if (fileFormOf({ format }, d).perChannel) return <span className="small text-quiet">a file each</span>;
  return (
    <Choice
      label={`Order of the channels of ${what}`}
      look="bare"
      value={d.order ?? 'wav'}
      options={orders.map(({ id, name }) => ({
        value: id,
        label: name,
        note: labelsIn(layout, id).join(' '),
      }))}
      onChange={onChange}
    />
  );
}

/** Every layout of a bus that is not asked yet. */
const openLayouts = (doc: SessionDoc, bus: Bus): LayoutId[] => {
  const asked = doc.deliverables.filter((d) => d.bus === bus.id).map((d) => d.layout);
  return [bus.layout, 'stereo' as const, 'mono' as const].filter(
    (l, i, all) => all.indexOf(l) === i && !asked.includes(l),
  );
};

function AddDeliverable() {
  const doc = useDoc();
  const [mixing, setMixing] = useState(false);
  const add = (bus: Bus, layout: LayoutId) => {
    const there = doc.deliverables.find((d) => d.bus === bus.id);
    const token = there && there.layout !== layout ? there.token : tokenFor(doc, bus.name);
    edit({ type: 'addDeliverable', id: `print-${nanoid(8)}`, bus: bus.id, layout, token });
  };
  return (
    <>
      {mixing && <MixOfStems onClose={() => setMixing(false)} />}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="btn shrink-0" data-action="brief.deliverable">
          <Plus size={14} /> Deliverable
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop max-h-90 min-w-57.5 overflow-auto p-1" sideOffset={4} align="end">
            {stemsOf(doc).length > 1 && (
              <>
                <DropdownMenu.Item className="menu-item" onSelect={() => setMixing(true)}>
                  Mix of chosen stems…
                </DropdownMenu.Item>
                <DropdownMenu.Separator className="my-1 border-t" />
              </>
            )}
            {doc.buses.flatMap((bus) =>
              openLayouts(doc, bus).map((layout) => (
                <DropdownMenu.Item key={`${bus.id}-${layout}`} className="menu-item" onSelect={() => add(bus, layout)}>
                  {bus.name}
                  <span className="small ml-auto text-quiet">
                    {layout === bus.layout ? layoutOf(layout).name : `folded to ${layoutOf(layout).name}`}
                  </span>
                </DropdownMenu.Item>
              )),
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  );
}
