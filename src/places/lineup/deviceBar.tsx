'use client';
import { Cable, Power, Unplug } from 'lucide-react';
import {
  allowInputs,
  edit,
  plug,
  showDevice,
  switchOff,
  switchOn,
  useDevices,
  useDoc,
  type DeviceState,
} from '@/client';
import { Choice, Segments } from '@/parts';
import { DelayDialog } from './delayDialog';
import { NetworkPanel } from './networkPanel';

/** Which device is shown, whether it is on, and what it really gives. */
/** Offers the shown device in the place of one that the session uses and that is not there. */
function Substitute({ device }: { device: DeviceState }) {
  const doc = useDoc('tracks', 'lines');
  const { list } = useDevices();
  const patched = new Set(doc.tracks.flatMap((t) => t.inputs));
  const missing = [...new Set(doc.lines.filter((l) => patched.has(l.id)).map((l) => l.device))].find(
    (id) => id !== device.id && !list.some((d) => d.id === id && d.unavailable === null),
  );
  if (!missing || device.unavailable) return null;
  const count = doc.lines.filter((l) => l.device === missing && patched.has(l.id)).length;
  return (
    <button
      className="btn btn-bare text-warn"
      title="Its cords, names, line sheet and chains go along"
      onClick={() => edit({ type: 'substituteDevice', from: missing, to: device.id, lines: device.lines })}
    >
      Take it for the missing device ({count} {count === 1 ? 'line' : 'lines'})
    </button>
  );
}

export function DeviceBar() {
  const { list, shown } = useDevices();
  const doc = useDoc('format', 'settings');
  const device = list.find((d) => d.id === shown) ?? list[0]!;
  const others = list.filter((d) => d.id !== device.id && d.state === 'on').length;
  const wrongRate = device.sampleRate !== null && device.sampleRate !== doc.format.sampleRate;
  return (
    <div className="flex items-center gap-3 px-4 pb-2 pt-3.5">
      <Cable size={15} className="text-quiet" />
      <Choice
        label="Input device"
        action="lineup.device"
        value={device.id}
        className="w-72.5 shrink-0"
        onChange={showDevice}
        options={list.map((d) => ({
          value: d.id,
          label: d.name,
          note: [
            d.state === 'on' ? 'on' : (d.unavailable ?? `${d.lines.length} ${d.lines.length === 1 ? 'line' : 'lines'}`),
            ...(d.systemDefault ? ['the system’s usual one'] : []),
          ].join(', '),
        }))}
      />
      {device.state === 'on' ? (
        <button className="btn" data-action="lineup.power" onClick={() => void switchOff(device.id)}>
          <Power size={14} className="text-fine" /> Switch off
        </button>
      ) : (
        <button
          className="btn btn-main"
          data-action="lineup.power"
          disabled={device.state === 'starting' || device.unavailable !== null}
          onClick={() => void switchOn(device.id)}
        >
          <Power size={14} /> {device.state === 'starting' ? 'Starting…' : 'Switch on'}
        </button>
      )}
      <span className="small flex min-w-0 items-center gap-2 truncate text-quiet" role="status">
        {device.state === 'on' ? (
          <>
            <span
              className="size-1.75 rounded-full"
              style={{ background: wrongRate ? 'var(--warn)' : 'var(--fine)' }}
            />
            {device.sampleRate ? `${device.sampleRate / 1000} kHz` : 'rate unknown'} · {device.channels}{' '}
            {device.channels === 1 ? 'line' : 'lines'} in
            {wrongRate && ` · the session is at ${doc.format.sampleRate / 1000} kHz: the browser converts`}
          </>
        ) : (
          (device.trouble ?? device.unavailable ?? 'off')
        )}
        {others > 0 && (
          <span>
            · {others} other {others === 1 ? 'device' : 'devices'} on
          </span>
        )}
      </span>
      <div className="ml-auto">
        <Segments
          label="Listening on"
          action="lineup.listening"
          value={doc.settings.listening}
          onChange={(listening) => edit({ type: 'setSession', listening })}
          options={[
            { value: 'headphones', label: 'headphones' },
            { value: 'loudspeakers', label: 'loudspeakers' },
          ]}
        />
      </div>
    </div>
  );
}

/** What else can be done with the shown device: its network, delay and plug, and the inputs of this computer. */
export function DeviceMore() {
  const { list, shown } = useDevices();
  const device = list.find((d) => d.id === shown) ?? list[0]!;
  const unnamed = list.some((d) => d.kind === 'browser' && d.unavailable) || !list.some((d) => d.kind === 'browser');
  return (
    <div className="ml-auto flex items-center">
      <Substitute device={device} />
      {device.state === 'on' && <DelayDialog device={device} />}
      {device.network && <NetworkPanel device={device} status={device.network} />}
      {device.kind === 'stand-in' && (device.state === 'on' || device.unavailable) && (
        <button
          className="btn btn-bare"
          data-action="lineup.plug"
          title="What happens when its cable comes out"
          onClick={() => void plug(device.id, device.unavailable !== null)}
        >
          <Unplug size={14} /> {device.unavailable ? 'Plug in again' : 'Pull its plug'}
        </button>
      )}
      {unnamed && (
        <button className="btn btn-bare" data-action="lineup.inputs" onClick={() => void allowInputs()}>
          Use this computer&apos;s inputs…
        </button>
      )}
    </div>
  );
}
