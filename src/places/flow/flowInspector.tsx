'use client';
import { nanoid } from 'nanoid';
import { linksOf, sounds } from '@/core/paths';
import { edit, previewSound, useBus, useChecks, useDoc, useLayouts, useSelection, useTrack } from '@/client';
import { BUS_PARAMS, MONITOR, referencesOf, type Bus, type EditJson, type Track } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { ReferenceSettings, ReturnSettings } from './busSettings';
import { FrozenRow } from './frozenRow';
import { follow, useFlow, wantBus } from './flowState';
import { Row } from './inspectorRow';
import { LaneList } from './laneList';
import { Way } from './way';
import { SendList } from './sendList';
import { ChainView, CheckList, Choice, fieldOf, hueOf, LevelField, MuteSolo, NumberField, StemTag } from '@/parts';

const NEW = '+new';
const NOWHERE = '-';

/** The path audit, and what is selected on the map. */
export function FlowInspector() {
  const selected = useSelection((s) => s.selected);
  const [track, bus] = [useTrack(selected?.id ?? ''), useBus(selected?.id ?? '')];
  const checks = useChecks((s) => s.checks);
  return (
    <>
      <Way />
      <h2 className="title pr-6">Path audit</h2>
      <p className="small mb-3 text-quiet">Each source should reach one stem, each stem the reference.</p>
      <CheckList
        checks={checks.filter((c) => c.place === 'flow')}
        empty="Every source reaches one stem, every stem the reference."
      />
      <div className="mt-4 border-t pt-3">
        {track ? (
          <TrackDetails track={track} />
        ) : bus ? (
          <BusDetails bus={bus} />
        ) : (
          <p className="small text-quiet">Choose a track, a bus or a band to see its level, destination and chain.</p>
        )}
      </div>
    </>
  );
}

function TrackDetails({ track }: { track: Track }) {
  const doc = useDoc('buses');
  return (
    <section aria-label="Selected track">
      <h3 className="title mb-1">
        {track.name} <span className="small font-[420] text-quiet">{layoutOf(track.layout).name}</span>
        <FollowButton id={track.id} name={track.name} />
      </h3>
      <Row label="Level">
        <LevelField node={track} />
      </Row>
      <Row label="Heard">
        <MuteSolo node={track} />
      </Row>
      <Row label="To">
        <Choice
          look="bare"
          label={`Destination of ${track.name}`}
          value={track.destination ?? NOWHERE}
          options={[
            ...doc.buses.map((b) => ({
              value: b.id,
              label: (
                <span className="flex items-center gap-2">
                  {b.kind === 'stem' && <StemTag bus={b} />}
                  {b.name}
                </span>
              ),
            })),
            { value: MONITOR, label: 'Monitor only' },
            { value: NOWHERE, label: 'Nowhere' },
            { value: NEW, label: 'New bus…' },
          ]}
          onChange={(to) =>
            to === NEW
              ? wantBus({ tracks: [track.id] })
              : edit({ type: 'sendTracks', tracks: [track.id], destination: to === NOWHERE ? null : to })
          }
        />
      </Row>
      <FrozenRow node={track} />
      <SendList owner={track} />
      <LaneList node={track} />
      <h4 className="mb-2 mt-3 font-[580]">Chain</h4>
      <ChainView owner={{ kind: 'track', id: track.id }} />
    </section>
  );
}

function BusDetails({ bus }: { bus: Bus }) {
  const doc = useDoc();
  const layouts = useLayouts();
  const set = (part: { trim?: number; name?: string }): EditJson => ({ type: 'setBus', bus: bus.id, ...part });
  const sources = linksOf(doc).to(bus.id).filter(sounds).length;
  return (
    <section aria-label="Selected bus">
      <h3 className="title mb-1 flex items-center gap-2">
        {bus.kind === 'stem' && <StemTag bus={bus} />}
        <input
          aria-label="Name of the bus"
          key={bus.name}
          defaultValue={bus.name}
          maxLength={40}
          className="min-w-0 flex-1 rounded-sm border border-transparent bg-transparent px-1 hover:border-line focus:border-brass focus:outline-none"
          onBlur={(e) =>
            e.target.value.trim() && e.target.value !== bus.name && edit(set({ name: e.target.value.trim() }))
          }
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        <span className="small font-[420] text-quiet">
          {sources} {sources === 1 ? 'source' : 'sources'}
        </span>
        <FollowButton id={bus.id} name={bus.name} />
      </h3>
      <Row label="Trim, before the chain">
        <NumberField
          label={`Trim of ${bus.name}`}
          value={bus.trim}
          {...fieldOf(BUS_PARAMS.trim)}
          plus
          onPreview={(trim) => previewSound(set({ trim }))}
          onChange={(trim) => edit(set({ trim }))}
        />
      </Row>
      <Row label="Level">
        <LevelField node={bus} />
      </Row>
      <Row label="Heard">
        <MuteSolo node={bus} />
      </Row>
      <Row label="To">
        <Choice
          look="bare"
          label={`Destination of ${bus.name}`}
          value={bus.destination ?? NOWHERE}
          options={[
            ...doc.buses.filter((b) => b.id !== bus.id).map((b) => ({ value: b.id, label: b.name })),
            { value: MONITOR, label: 'Monitor' },
            { value: NOWHERE, label: 'Nowhere' },
            ...(bus.kind === 'reference' ? [] : [{ value: NEW, label: 'New bus…' }]),
          ]}
          onChange={(to) =>
            to === NEW
              ? wantBus({ buses: [bus.id], kind: 'bus' })
              : edit({ type: 'sendBus', bus: bus.id, destination: to === NOWHERE ? null : to })
          }
        />
      </Row>
      {bus.kind !== 'reference' && (
        <Row label="Layout">
          <Choice
            look="bare"
            label={`Layout of ${bus.name}`}
            value={bus.layout}
            options={layouts.map((l) => ({ value: l.id, label: l.name }))}
            onChange={(layout) => edit({ type: 'setBus', bus: bus.id, layout })}
          />
        </Row>
      )}
      {bus.kind !== 'reference' && bus.layout !== 'mono' && (
        <button
          className="btn btn-bare -ml-2"
          title="A mono bus for each speaker, named after it: what is led to one sounds in that speaker alone"
          onClick={() =>
            edit({ type: 'splitBus', bus: bus.id, ids: layoutOf(bus.layout).speakers.map(() => `bus-${nanoid(8)}`) })
          }
        >
          Split into mono buses
        </button>
      )}
      {bus.kind !== 'reference' && bus.layout === 'mono' && bus.placement?.speaker && (
        <Row label="Sounds in">
          <span className="text-quiet">{bus.placement.speaker} alone</span>
        </Row>
      )}
      {bus.kind !== 'reference' && <FrozenRow node={bus} />}
      {bus.kind === 'return' && <ReturnSettings bus={bus} />}
      {bus.kind === 'reference' && <ReferenceSettings bus={bus} />}
      {bus.kind !== 'reference' && <SendList owner={bus} />}
      <LaneList node={bus} />
      <h4 className="mb-2 mt-3 font-[580]" style={{ color: bus.hue >= 0 ? hueOf(bus) : undefined }}>
        Chain
      </h4>
      <ChainView owner={{ kind: 'bus', id: bus.id }} />
      {(bus.kind !== 'reference' || referencesOf(doc).length > 1) && (
        <button
          className="btn btn-bare mt-2 -ml-2"
          title="Its sources go on to where it goes"
          onClick={() => edit({ type: 'removeBus', bus: bus.id })}
        >
          Remove this bus
        </button>
      )}
    </section>
  );
}

function FollowButton({ id, name }: { id: string; name: string }) {
  const on = useFlow((s) => s.following === id);
  return (
    <button
      className="chip ml-2 font-[420]"
      aria-pressed={on}
      aria-label={`Follow ${name}`}
      title="Lights up only the ways of this sound (F on a box of the map; hold Alt over one to look)"
      onClick={() => follow(on ? null : id)}
    >
      follow
    </button>
  );
}
