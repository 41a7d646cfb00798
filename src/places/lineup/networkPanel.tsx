'use client';
import { Network } from 'lucide-react';
import { Popover } from 'radix-ui';
import { tellConsole, useDoc, type DeviceState } from '@/client';
import { secondsToClick } from '@/core/checks';
import { NumberField, Segments } from '@/parts';
import { DIRECT, FIRST_SOURCE, type NetworkStatus } from '@/standins';

interface Props {
  device: DeviceState;
  status: NetworkStatus;
}

/** Links, clock and direct feed of a networked device. */
export function NetworkPanel({ device, status }: Props) {
  const down = status.links.filter((l) => !l.up).length;
  const state = down > 0 ? `${down} of 2 links down` : status.clock === 'own' ? 'own clock' : '2 links, one clock';
  const colour = down === 2 ? 'var(--stop)' : down || status.clock === 'own' ? 'var(--warn)' : 'var(--fine)';
  return (
    <Popover.Root>
      <Popover.Trigger className="btn btn-bare" data-action="lineup.network">
        <Network size={14} style={{ color: colour }} /> {state}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="pop w-82.5 p-3" sideOffset={4} align="end" aria-label="Network">
          <Links device={device} status={status} />
          <Clock device={device} status={status} />
          <Direct device={device} status={status} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Links({ device, status }: Props) {
  return (
    <section aria-label="Links">
      <h3 className="font-[580]">Links</h3>
      {status.links.map(({ up }, link) => (
        <div key={link} className="flex items-center gap-2 py-0.5">
          <span className="size-1.75 rounded-full" style={{ background: up ? 'var(--fine)' : 'var(--stop)' }} />
          <span>
            {link === 0 ? 'First' : 'Second'} link {up ? 'carries the stream' : 'is cut'}
          </span>
          <button className="chip ml-auto" onClick={() => tellConsole(device.id, { link, up: !up })}>
            {up ? 'Cut' : 'Mend'}
          </button>
        </div>
      ))}
      <p className="small text-quiet">
        Each packet travels on both; the first to arrive counts. Lost: <span className="figure">{status.lost}</span>{' '}
        samples.
      </p>
    </section>
  );
}

function Clock({ device, status }: Props) {
  const { sampleRate } = useDoc('format').format;
  const { ppm } = status;
  const drifting = ppm !== null && Math.abs(ppm) > 0.5;
  return (
    <section className="mt-3" aria-label="Clock">
      <h3 className="mb-1 font-[580]">Clock</h3>
      <Segments
        label="Clock of the device"
        value={status.clock}
        onChange={(clock) => tellConsole(device.id, { clock })}
        options={[
          { value: 'network', label: 'follows the network' },
          { value: 'own', label: 'its own' },
        ]}
      />
      <p className="small mt-1 text-quiet">
        Drift{' '}
        <span className="figure">
          {ppm === null ? '…' : `${ppm < -0.05 ? '−' : ppm > 0.05 ? '+' : ''}${Math.abs(ppm).toFixed(1)}`}
        </span>{' '}
        ppm
        {drifting && (
          <span className="text-warn"> · clicks in {secondsToClick(status.margin, ppm, sampleRate).toFixed(0)} s</span>
        )}
        {status.slips > 0 && <span className="text-stop"> · {status.slips} clicks so far</span>}
      </p>
    </section>
  );
}

function Direct({ device, status }: Props) {
  const source = device.lines[FIRST_SOURCE]!;
  return (
    <section className="mt-3" aria-label="Direct feed">
      <h3 className="font-[580]">Direct feed</h3>
      <label className="mt-0.5 flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-brass"
          checked={status.direct}
          onChange={(e) => tellConsole(device.id, { direct: e.target.checked })}
        />
        {source}, before its fader, on line {DIRECT + 1}
      </label>
      <div className="mt-1 flex items-center gap-2">
        <span className="text-quiet">Fader of {source}</span>
        <NumberField
          label={`Fader of ${source}`}
          value={status.faders[0] ?? 0}
          unit="dB"
          min={-90}
          max={10}
          step={0.5}
          reset={0}
          plus
          onChange={(db) => tellConsole(device.id, { fader: 0, db })}
        />
      </div>
      <p className="small text-quiet">The fader moves lines 1, 2 and {FIRST_SOURCE + 1}, never line 3.</p>
    </section>
  );
}
