'use client';
import { calibrating, useCalibration } from '@/client';
import { REFERENCE_LEVELS } from '@/core/rooms';
import { layoutOf } from '@/core/speakers';
import { Choice, NumberField } from '@/parts';
import { useShownRoom } from '../useRoom';

const TYPED = 'typed';

/** How loud a speaker shall be, typed or of a publication. */
export function AimRow() {
  const { aim } = useCalibration();
  const room = useShownRoom();
  const count = room ? layoutOf(room.layout).speakers.filter((s) => !s.lfe).length : 1;
  const known = REFERENCE_LEVELS.find(
    (r) =>
      Math.abs(r.level(count) - aim.level) < 0.05 &&
      r.noise === aim.noise &&
      r.surround === aim.surround &&
      r.weighting === aim.weighting,
  );
  return (
    <div className="mb-2 mt-1 flex flex-wrap items-center gap-2">
      <span className="small text-quiet">reference level</span>
      <NumberField
        {...{ label: 'Reference level', unit: `dB(${aim.weighting})`, value: aim.level, min: 50, max: 95, step: 0.1 }}
        onChange={(level) => calibrating().aim({ level })}
      />
      <span className="small text-quiet">for noise of</span>
      <NumberField
        {...{ label: 'Level of the noise', unit: 'dBFS', value: aim.noise, min: -40, max: -10, step: 1, digits: 0 }}
        onChange={(noise) => calibrating().aim({ noise })}
      />
      <Choice
        look="bare"
        label="Reference level of a publication"
        value={known?.id ?? TYPED}
        options={[
          ...REFERENCE_LEVELS.map((r) => ({ value: r.id, label: r.name, note: r.source })),
          ...(known ? [] : [{ value: TYPED, label: 'typed' }]),
        ]}
        onChange={(id) => {
          const chosen = REFERENCE_LEVELS.find((r) => r.id === id);
          if (!chosen) return;
          const level = Math.round(chosen.level(count) * 10) / 10;
          calibrating().aim({ level, noise: chosen.noise, surround: chosen.surround, weighting: chosen.weighting });
        }}
      />
    </div>
  );
}
