import { clsx } from 'clsx';
import { calibrating, useCalibration, useDevices } from '@/client';
import { Choice } from '@/parts';
import { run } from './run';

const OWN = '-';
const keyOf = (device: string, line: number): string => `${device}/${line}`;

/** What listens while the room is measured: the microphone of the simulated room, or a line of a device that is on. */
export function EarRow() {
  const { ear } = useCalibration();
  const devices = useDevices((s) => s.list);
  const lines = devices
    .filter((d) => d.state === 'on')
    .flatMap((d) =>
      d.lines.map((name, line) => ({
        value: keyOf(d.id, line),
        label: name,
        note: d.name,
        ear: { device: d.id, line },
      })),
    );
  const chosen = calibrating().listensOn;
  const options = [
    { value: OWN, label: 'that of the simulated room' },
    ...lines,
    ...(chosen && !lines.some((l) => l.value === keyOf(chosen.device, chosen.line))
      ? [{ value: keyOf(chosen.device, chosen.line), label: 'a line that is off' }]
      : []),
  ];
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      <span className="small text-quiet">microphone</span>
      <Choice
        look="bare"
        label="Measuring microphone"
        value={chosen ? keyOf(chosen.device, chosen.line) : OWN}
        options={options}
        onChange={(key) => run(() => calibrating().listenOn(lines.find((l) => l.value === key)?.ear ?? null))}
      />
      {chosen && (
        <span className={clsx('small', ear.fullScale === null ? 'text-warn' : 'text-quiet')}>
          {ear.fullScale === null
            ? 'how loud it hears is not known yet: sound one speaker, and type what a sound level meter beside it shows'
            : `its full scale is ${ear.fullScale.toFixed(1)} dB SPL`}
        </span>
      )}
    </div>
  );
}
