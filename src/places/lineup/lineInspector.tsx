'use client';
import { edit, useDevices, useDoc, deviceKey, leavingKey } from '@/client';
import { ChainView, Meter, PeakFigure, TextField } from '@/parts';
import { channelOfLine, isLineOf, type Recorded } from '@/core/session';
import { LineSettings } from './lineSettings';

const RECORDED_NOTE: Record<Recorded, string> = {
  both: 'Recorded: what comes out of the chain, with an untouched copy of the line beside it.',
  processed: 'Recorded: what comes out of the chain, nothing else. It cannot be taken back.',
  dry: 'Recorded: the untouched line. The chain is only heard.',
};

/** The selected line: its name, level and chain. */
export function LineInspector({ line: selected }: { line: string | null }) {
  const doc = useDoc('lines', 'tracks');
  const { list, shown } = useDevices();
  const id = selected ?? doc.lines.find((l) => l.device === shown)?.id ?? null;
  const device = list.find((d) => isLineOf(d.id, id));
  const channel = id ? channelOfLine(id) : -1;
  if (!id || !device)
    return (
      <p className="small pr-6 text-quiet">
        Choose a line to see its chain. Pull a cord from a line to a track to record it.
      </p>
    );
  const line = doc.lines.find((l) => l.id === id);
  const tracks = doc.tracks.filter((t) => t.inputs.includes(id));
  const takes = doc.tracks.filter((t) => t.inputs.includes(id)).flatMap((t) => t.takes.map((k) => k.number));
  const keys = [deviceKey(device.slot, channel)];
  if (!line) {
    return (
      <>
        <h2 className="title pr-6">
          Line {channel + 1} · {device.lines[channel]}
        </h2>
        <p className="small mt-2 text-quiet">
          Not patched yet. With a cord to a track it gets a chain: low cut, gate, compressor.
        </p>
        <button
          className="btn mt-3"
          onClick={() =>
            edit({
              type: 'addLine',
              device: device.id,
              channel,
              name: device.lines[channel] ?? `Line ${channel + 1}`,
              ...(device.sheets[channel] ? { sheet: device.sheets[channel] } : {}),
            })
          }
        >
          Prepare its chain
        </button>
      </>
    );
  }
  return (
    <>
      <h2 className="title flex items-baseline gap-1.5 pr-6">
        <span className="whitespace-nowrap">Line {channel + 1} ·</span>
        <TextField
          label="Name of the line"
          value={line.name}
          maxLength={60}
          className="flex-1"
          onChange={(name) => edit({ type: 'nameLine', line: id, name })}
        />
      </h2>
      <p className="small text-quiet">→ {tracks.length ? tracks.map((t) => t.name).join(', ') : 'no track'}</p>
      <div className="mt-3 flex items-center gap-2">
        <span className="small w-6.5 text-quiet">in</span>
        <Meter keys={keys} label="Level of the line" zone className="flex-1" />
        <PeakFigure keys={keys} className="w-[6ch] text-right" />
      </div>
      {tracks.length > 0 && (
        <div className="mb-1 mt-1.5 flex items-center gap-2">
          <span className="small w-6.5 text-quiet">out</span>
          <Meter keys={[leavingKey(id, 0)]} label="Level after the chain" zone className="flex-1" />
          <PeakFigure keys={[leavingKey(id, 0)]} className="w-[6ch] text-right" />
        </div>
      )}
      <LineSettings line={line} />
      <h3 className="mt-4 font-[580]">Chain</h3>
      <ChainView owner={{ kind: 'line', id }} />
      <p className="small mt-4 border-t pt-3 text-quiet">
        {RECORDED_NOTE[line.record]}
        {takes.length > 0 &&
          ` ${takes.length} ${takes.length === 1 ? 'take' : 'takes'} went through it; each keeps the setting it had.`}
      </p>
    </>
  );
}
