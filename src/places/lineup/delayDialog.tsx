'use client';
import { clsx } from 'clsx';
import { Ruler } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import {
  latencyKey,
  measureDelay,
  setLatency,
  useDoc,
  useLatency,
  type DeviceState,
  type MeasuredDelay,
} from '@/client';
import { Choice, Dialog, NumberField } from '@/parts';

/** Below this the burst was not clearly heard (common practice, no source). */
const SURE = 0.5;

/** How late a device's sound comes: measured with a burst through a cable, or typed; takes are set back by it. */
export function DelayDialog({ device }: { device: DeviceState }) {
  const { format, settings } = useDoc('format', 'settings');
  const key = latencyKey(device.id, format.sampleRate, settings.buffer);
  const known = useLatency((s) => s.measured[key]);
  const [open, setOpen] = useState(false);
  const [line, setLine] = useState('0');
  const [busy, setBusy] = useState(false);
  const [found, setFound] = useState<MeasuredDelay | null>(null);
  const ms = (samples: number) => `${((samples * 1000) / format.sampleRate).toFixed(1)} ms`;
  const measure = async () => {
    setBusy(true);
    setFound(null);
    try {
      const result = await measureDelay(device.id, Number(line));
      setFound(result);
      if (result.likeness >= SURE) setLatency(key, result.delay);
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <button
        className="btn btn-bare"
        data-action="lineup.delay"
        title="How late its sound comes"
        onClick={() => setOpen(true)}
      >
        <Ruler size={14} /> {known === undefined ? 'Measure delay' : `${known} samples late`}
      </button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title={`Delay of ${device.name}`}
        note="Lead an output of this computer to the line with a cable, or hold the microphone to a loudspeaker turned low. A short burst of noise is sent and looked for."
      >
        <div className="flex items-center gap-2">
          <Choice
            label="Line that hears the burst"
            value={line}
            className="w-50"
            options={device.lines.map((name, c) => ({ value: String(c), label: `${c + 1} · ${name}` }))}
            onChange={setLine}
          />
          <button className="btn btn-main" disabled={busy} onClick={() => void measure()}>
            {busy ? 'Listening…' : 'Measure'}
          </button>
        </div>
        {found && (
          <p className={clsx('mt-3', !(found.likeness >= SURE) && 'text-warn')} role="status">
            {found.likeness >= SURE ? (
              <>
                <span className="figure">{found.delay}</span> samples, {ms(found.delay)}. Takes from this device are set
                back by that.
              </>
            ) : (
              'The burst was not found on that line. Nothing was changed; check the cable and the level, then measure again.'
            )}
          </p>
        )}
        <label className="mt-3 flex items-center gap-2 border-t pt-3">
          <span className="text-quiet">Set back by</span>
          <NumberField
            label="Delay of the device"
            value={known ?? 0}
            unit="samples"
            min={0}
            max={48_000}
            step={1}
            digits={0}
            reset={0}
            onChange={(v) => setLatency(key, v === 0 ? null : Math.round(v))}
          />
          <span className="small text-quiet">at this rate and buffer, kept in this browser</span>
        </label>
      </Dialog>
    </>
  );
}
