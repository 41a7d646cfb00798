import { edit, useDoc } from '@/client';
import { Choice, NumberField } from '@/parts';

const KINDS = [
  { value: 'none', label: 'ends there' },
  { value: 'decayed', label: 'until decayed', note: '60 dB below the last peak' },
  { value: 'time', label: 'goes on' },
] as const;

/** What a print goes on for behind its range. */
export function TailChoice() {
  const { tail } = useDoc('settings').settings;
  return (
    <span className="ml-2 flex items-center">
      <Choice
        label="Tail"
        look="bare"
        value={tail?.until ?? 'none'}
        options={KINDS}
        onChange={(to) => edit({ type: 'setWork', tail: to })}
      />
      {tail && (
        <NumberField
          label={tail.until === 'time' ? 'Length of the tail' : 'Longest tail'}
          unit="s"
          value={tail.seconds}
          min={0.1}
          max={60}
          step={0.1}
          digits={1}
          onChange={(tailSeconds) => edit({ type: 'setWork', tailSeconds })}
        />
      )}
    </span>
  );
}
