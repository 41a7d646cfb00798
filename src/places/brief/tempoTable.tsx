'use client';
import { Plus, Trash2 } from 'lucide-react';
import { edit, useDoc } from '@/client';
import { TempoMap, type MeterPoint, type TempoPoint } from '@/core/units';
import { Choice, NumberField } from '@/parts';

const VALUES = [2, 4, 8, 16] as const;

/** The tempo map as two short tables: tempos by bar, metres by bar. */
export function TempoTable() {
  const { tempo } = useDoc('tempo');
  const map = new TempoMap(tempo.tempos, tempo.meters);
  const set = (tempos: TempoPoint[], meters: MeterPoint[] = tempo.meters) => edit({ type: 'setTempo', tempos, meters });
  const setAt = (i: number, part: Partial<TempoPoint>) =>
    set(tempo.tempos.map((t, j) => (j === i ? { ...t, ...part } : t)));
  const setMeter = (i: number, part: Partial<MeterPoint>) =>
    set(
      tempo.tempos,
      tempo.meters.map((m, j) => (j === i ? { ...m, ...part } : m)),
    );
  const lastBar = map.barAt(tempo.tempos.at(-1)!.beat).bar;
  return (
    <section aria-label="Tempo map">
      <div className="flex items-baseline justify-between">
        <h3 className="font-[580]">Tempo map</h3>
        <button
          className="btn btn-bare"
          data-action="brief.tempo"
          onClick={() =>
            set([...tempo.tempos, { beat: map.beatOf(lastBar + 8), tempo: tempo.tempos.at(-1)!.tempo, glides: false }])
          }
        >
          <Plus size={14} /> Tempo
        </button>
      </div>
      {tempo.tempos.map((t, i) => {
        const { bar } = map.barAt(t.beat);
        return (
          <div key={i} className="grid h-7.25 grid-cols-[110px_110px_1fr_20px] items-center border-b">
            <span className="flex items-baseline gap-1 text-quiet">
              from bar
              {i === 0 ? (
                <span className="figure px-1 text-text">1</span>
              ) : (
                <NumberField
                  label={`Bar of tempo ${i + 1}`}
                  value={bar}
                  min={2}
                  max={9999}
                  step={1}
                  digits={0}
                  onChange={(b) => setAt(i, { beat: map.beatOf(Math.round(b)) })}
                />
              )}
            </span>
            <NumberField
              label={`Tempo ${i + 1}`}
              value={t.tempo}
              unit="bpm"
              min={5}
              max={400}
              reset={120}
              onChange={(v) => setAt(i, { tempo: v })}
            />
            <Choice
              label={`After tempo ${i + 1}`}
              look="bare"
              className="small"
              value={t.glides ? 'glides' : 'holds'}
              options={[
                { value: 'holds', label: 'holds' },
                { value: 'glides', label: 'glides to the next' },
              ]}
              onChange={(v) => setAt(i, { glides: v === 'glides' })}
            />
            {i > 0 && (
              <button
                aria-label={`Remove tempo ${i + 1}`}
                title="Remove"
                className="text-quiet hover:text-stop"
                onClick={() => set(tempo.tempos.filter((_, j) => j !== i))}
              >
                <Trash2 size={13} />
              </button>
            )}
          </div>
        );
      })}
      <div className="mt-3 flex items-baseline justify-between">
        <h3 className="font-[580]">Metre</h3>
        <button
          className="btn btn-bare"
          data-action="brief.metre"
          onClick={() =>
            set(tempo.tempos, [...tempo.meters, { bar: tempo.meters.at(-1)!.bar + 8, beats: 3, value: 4 }])
          }
        >
          <Plus size={14} /> Metre
        </button>
      </div>
      {tempo.meters.map((m, i) => (
        <div key={i} className="grid h-7.25 grid-cols-[110px_1fr_20px] items-center border-b">
          <span className="flex items-baseline gap-1 text-quiet">
            from bar
            {i === 0 ? (
              <span className="figure px-1 text-text">1</span>
            ) : (
              <NumberField
                label={`Bar of metre ${i + 1}`}
                value={m.bar}
                min={2}
                max={9999}
                step={1}
                digits={0}
                onChange={(bar) => setMeter(i, { bar: Math.round(bar) })}
              />
            )}
          </span>
          <span className="flex items-center">
            <NumberField
              label={`Beats of metre ${i + 1}`}
              value={m.beats}
              min={1}
              max={32}
              step={1}
              digits={0}
              onChange={(beats) => setMeter(i, { beats: Math.round(beats) })}
            />
            /
            <Choice
              label={`Note value of metre ${i + 1}`}
              look="bare"
              className="figure"
              value={String(m.value)}
              options={VALUES.map((v) => ({ value: String(v), label: String(v) }))}
              onChange={(v) => setMeter(i, { value: Number(v) })}
            />
          </span>
          {i > 0 && (
            <button
              aria-label={`Remove metre ${i + 1}`}
              title="Remove"
              className="text-quiet hover:text-stop"
              onClick={() =>
                set(
                  tempo.tempos,
                  tempo.meters.filter((_, j) => j !== i),
                )
              }
            >
              <Trash2 size={13} />
            </button>
          )}
        </div>
      ))}
      <p className="small mt-2 text-quiet">Clips of musical tracks move with it, by their starts; lengths stay.</p>
    </section>
  );
}
