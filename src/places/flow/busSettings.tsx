'use client';
import { nanoid } from 'nanoid';
import { edit, preview, select, useDoc } from '@/client';
import { LINKED_PARAMS, referencesOf, stemsOf, type Bus, type Linked } from '@/core/session';
import { fieldOf, NumberField, Segments, StemTag } from '@/parts';
import { Row } from './inspectorRow';
import { Difference } from './sumNow';

/** What a return has of its own: one room for all stems or one for each, and whether solo leaves it on. */
export function ReturnSettings({ bus }: { bus: Bus }) {
  return (
    <>
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
  const set = (part: Partial<Linked>) =>
    ({ type: 'setReference', bus: bus.id, linked: { ...(linked ?? START), ...part } }) as const;
  return (
    <>
      <Row label="Sum of the stems, now">
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
                className={`rounded-[5px] ${left ? 'opacity-35' : ''}`}
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
          <Row label="Ceiling">
            <NumberField
              label={`Ceiling of the stems of ${bus.name}`}
              value={linked.ceiling}
              {...fieldOf(LINKED_PARAMS.ceiling)}
              unit={linked.peaks === 'true' ? 'dBTP' : 'dBFS'}
              onPreview={(ceiling) => preview(set({ ceiling }))}
              onChange={(ceiling) => edit(set({ ceiling }))}
            />
          </Row>
          <Row label="Release">
            <NumberField
              label={`Release of the stems of ${bus.name}`}
              value={linked.release}
              {...fieldOf(LINKED_PARAMS.release)}
              onPreview={(release) => preview(set({ release }))}
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
