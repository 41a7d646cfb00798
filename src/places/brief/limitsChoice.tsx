'use client';
import { Popover } from 'radix-ui';
import { KNOWN_LIMITS, R128, type LoudnessLimits } from '@/core/session';
import { formatDb } from '@/core/units';
import { NumberField, TextField } from '@/parts';

interface Props {
  label: string;
  /** null: as the job. */
  limits: LoudnessLimits | null;
  onChange: (limits: LoudnessLimits | null) => void;
  /** Whether it is for one file, which may be as the job. */
  forFile?: boolean;
  /** What the search for actions calls it by. */
  action?: string;
}

/** Loudness and true-peak limits: a known set of them, or own figures. For a file also "as the job". */
export function LimitsChoice({ label, limits, onChange, forFile = false, action }: Props) {
  const now = limits ?? R128;
  const own = (part: Partial<LoudnessLimits>) => onChange({ ...now, name: 'own', ...part });
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={label}
        data-action={action}
        className="rounded-sm px-1 text-left text-quiet hover:text-brass"
      >
        {limits ? limits.name : 'as the job'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="pop w-72.5 p-2" sideOffset={4} align="start" aria-label={label}>
          {forFile && (
            <button className="menu-item w-full" onClick={() => onChange(null)}>
              as the job
            </button>
          )}
          {KNOWN_LIMITS.map((k) => (
            <button key={k.name} className="menu-item w-full" onClick={() => onChange({ ...k })}>
              {k.name}
              <span className="figure small ml-auto text-quiet">
                {k.target === null ? '' : `${formatDb(k.target)} LUFS ±${k.tolerance}, `}
                {formatDb(k.truePeak)} dBTP
              </span>
            </button>
          ))}
          <div className="mt-2 grid grid-cols-[1fr_auto] items-center gap-y-1 border-t px-2 pt-2">
            <span className="text-quiet">name</span>
            <TextField
              label="Name of the limits"
              value={now.name}
              className="w-[14ch] text-right"
              onChange={(name) => own({ name })}
            />
            <span className="text-quiet">loudness</span>
            <NumberField
              label="Target loudness"
              value={now.target ?? -23}
              unit="LUFS"
              min={-60}
              max={0}
              onChange={(target) => own({ target })}
            />
            <span className="text-quiet">within</span>
            <NumberField
              label="Tolerance"
              value={now.tolerance}
              unit="LU"
              min={0}
              max={10}
              onChange={(tolerance) => own({ tolerance })}
            />
            <span className="text-quiet">true peak at most</span>
            <NumberField
              label="Highest true peak"
              value={now.truePeak}
              unit="dBTP"
              min={-20}
              max={0}
              onChange={(truePeak) => own({ truePeak })}
            />
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
