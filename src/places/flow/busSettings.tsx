'use client';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { edit, previewSound, select, useDoc } from '@/client';
import { linkedLimiter } from '@/core/engine';
import {
  placeReturn,
  roomBehind,
  sideOf,
  type Side,
  carryOnStems,
  LINKED_PARAMS,
  referencesOf,
  stemsOf,
  type Bus,
  type Deliverable,
  type Linked,
} from '@/core/session';
import { fieldOf, NumberField, ReductionHistory, Segments, StemTag } from '@/parts';
import { layoutOf } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { Row } from './inspectorRow';
import { Difference } from './sumNow';

const SIDES: readonly { value: Side | ''; label: string }[] = [
  { value: 'same', label: 'with its sounds' },
  { value: 'opposite', label: 'opposite' },
  { value: 'behind', label: 'behind' },
];

/** What a return has of its own: one room for all stems or one for each, and whether solo leaves it on. */
export function ReturnSettings({ bus }: { bus: Bus }) {
  const doc = useDoc();
  const placed = bus.layout === 'mono' || bus.layout === 'stereo';
  return (
    <>
      {placed && (
        <Row label="Stands">
          <Segments
            label={`Side of ${bus.name}`}
            value={sideOf(doc, bus) ?? ''}
            options={SIDES}
            onChange={(side) => side && edit(placeReturn(doc, bus, side))}
          />
        </Row>
      )}
      {bus.layout === 'stereo' && (
        <button
          className="btn btn-bare -ml-2"
          title="A second stereo return with the same sends and another variant of its room, behind; this one in front"
          onClick={() => {
            const id = `return-${nanoid(6)}`;
            if (edit(...roomBehind(doc, bus, id))) select({ kind: 'bus', id });
          }}
        >
          Another room behind
        </button>
      )}
      <Row label="Room">
        <Segments
          label={`Rooms of ${bus.name}`}
          value={bus.rooms}
          options={[
            { value: 'shared', label: 'for all' },
            { value: 'each stem', label: 'for each stem' },
          ]}
          onChange={(rooms) => edit({ type: 'setBus', bus: bus.id, rooms })}
        />
      </Row>
      <Row label="Through solo">
        <button
          className="chip"
          aria-pressed={bus.throughSolo}
          aria-label={`${bus.name} is heard through solo`}
          onClick={() => edit({ type: 'setBus', bus: bus.id, throughSolo: !bus.throughSolo })}
        >
          {bus.throughSolo ? 'heard' : 'silent'}
        </button>
      </Row>
    </>
  );
}

const START: Linked = {
  on: true,
  ceiling: LINKED_PARAMS.ceiling.default,
  release: LINKED_PARAMS.release.default,
  peaks: 'true',
};

/** What a reference has of its own: its stems, and whether they are limited together. */
export function ReferenceSettings({ bus }: { bus: Bus }) {
  const doc = useDoc();
  const { linked } = bus;
  const offUnity = doc.buses.filter((b) => b.level !== 0);
  const set = (part: Partial<Linked>) =>
    ({ type: 'setReference', bus: bus.id, linked: { ...(linked ?? START), ...part } }) as const;
  return (
    <>
      <Row label="Stems">
        <Difference reference={bus} />
      </Row>
      <div className="border-b py-2">
        <p className="mb-1 text-quiet">Stems in it</p>
        <div className="flex flex-wrap gap-1">
          {stemsOf(doc).map((stem) => {
            const left = bus.leftOut.includes(stem.id);
            const leftOut = left ? bus.leftOut.filter((id) => id !== stem.id) : [...bus.leftOut, stem.id];
            return (
              <button
                key={stem.id}
                aria-pressed={!left}
                aria-label={`${stem.name} is in ${bus.name}`}
                title={`${stem.name} is ${left ? 'left out' : 'in it'}`}
                className={clsx('rounded-md', left && 'opacity-35')}
                onClick={() => edit({ type: 'setReference', bus: bus.id, leftOut })}
              >
                <StemTag bus={stem} />
              </button>
            );
          })}
        </div>
      </div>
      <Row label="Limit its stems together">
        <button
          className="chip"
          aria-pressed={linked?.on ?? false}
          aria-label={`Limit the stems of ${bus.name} together`}
          onClick={() => edit(set({ on: !linked?.on }))}
        >
          {linked?.on ? 'on' : 'off'}
        </button>
      </Row>
      {linked?.on && (
        <>
          <ReductionHistory stage={linkedLimiter(bus.id)} seconds={10} />
          <Row label="Ceiling">
            <NumberField
              label={`Ceiling of the stems of ${bus.name}`}
              value={linked.ceiling}
              {...fieldOf(LINKED_PARAMS.ceiling)}
              unit={linked.peaks === 'true' ? 'dBTP' : 'dBFS'}
              onPreview={(ceiling) => previewSound(set({ ceiling }))}
              onChange={(ceiling) => edit(set({ ceiling }))}
            />
          </Row>
          <Row label="Release">
            <NumberField
              label={`Release of the stems of ${bus.name}`}
              value={linked.release}
              {...fieldOf(LINKED_PARAMS.release)}
              onPreview={(release) => previewSound(set({ release }))}
              onChange={(release) => edit(set({ release }))}
            />
          </Row>
          <Row label="Peaks">
            <Segments
              label={`Peaks that the stems of ${bus.name} are limited by`}
              value={linked.peaks}
              options={[
                { value: 'sample', label: 'sample' },
                { value: 'true', label: 'true' },
              ]}
              onChange={(peaks) => edit(set({ peaks }))}
            />
          </Row>
        </>
      )}
      {bus.chain
        .filter((s) => s.on)
        .map((s) => (
          <Row key={s.id} label={`${stageKind(s.type).name} of its own`}>
            <button
              className="chip"
              title="Each stem gets a copy, the reference none: they add up again, as far as it is linear"
              onClick={() => edit(...carryOnStems(doc, bus, s.id))}
            >
              carry it on the stems
            </button>
          </Row>
        ))}
      {doc.deliverables
        .filter((d) => d.bus === bus.id && d.layout !== bus.layout)
        .map((d) => (
          <FoldLimit key={d.id} file={d} />
        ))}
      {offUnity.length > 0 && (
        <Row label={`Not at unity: ${offUnity.map((b) => b.name).join(', ')}`}>
          <button
            className="chip whitespace-nowrap"
            onClick={() => edit(...offUnity.map((b) => ({ type: 'setBus' as const, bus: b.id, level: 0 })))}
          >
            all to unity
          </button>
        </Row>
      )}
      <button
        className="btn btn-bare mt-1 -ml-2"
        title="Of all stems but those that it leaves out; printed beside this one"
        onClick={() => {
          const id = `reference-${nanoid(6)}`;
          edit({ type: 'addReference', id, name: `Reference ${referencesOf(doc).length + 1}`, leftOut: [] });
          select({ kind: 'bus', id });
        }}
      >
        One more reference
      </button>
    </>
  );
}

/** A fold-down is limited for itself, or not at all. */
function FoldLimit({ file }: { file: Deliverable }) {
  const name = `${file.token} ${layoutOf(file.layout).name}`;
  const set = (ceiling: number | null) => ({ type: 'setDeliverable', deliverable: file.id, ceiling }) as const;
  return (
    <Row label={`Fold-down ${name}`}>
      <span className="flex items-center gap-2">
        {file.ceiling !== undefined && (
          <NumberField
            label={`Ceiling of ${name}`}
            value={file.ceiling}
            {...fieldOf(LINKED_PARAMS.ceiling)}
            unit="dBTP"
            onPreview={(ceiling) => previewSound(set(ceiling))}
            onChange={(ceiling) => edit(set(ceiling))}
          />
        )}
        <button
          className="chip"
          aria-pressed={file.ceiling !== undefined}
          aria-label={`Limit ${name}`}
          onClick={() => edit(set(file.ceiling === undefined ? LINKED_PARAMS.ceiling.default : null))}
        >
          {file.ceiling === undefined ? 'not limited' : 'limited'}
        </button>
      </span>
    </Row>
  );
}
