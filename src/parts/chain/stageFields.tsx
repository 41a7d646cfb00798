'use client';
import { keyWouldLoop } from '@/core/paths';
import { edit, preview, useDocPart } from '@/client';
import { type Owner, type Stage } from '@/core/session';
import { stageKind, type StageParam, valueOf } from '@/core/stages';
import { Choice } from '../choice';
import { NumberField } from '../numberField';

type Props = { owner: Owner; stage: Stage };

/** Every value of a stage, drawn from its description; values of one group share a row. */
export function StageFields({ owner, stage }: Props) {
  const { params } = stageKind(stage.type);
  const groups = [...new Set(params.flatMap((p) => (p.group ? [p.group] : [])))];
  return (
    <>
      {groups.map((group) => (
        <div
          key={group}
          role="group"
          aria-label={group}
          className="grid grid-cols-[92px_1fr_1fr_44px] items-center py-0.5 *:justify-self-end *:first:justify-self-start"
        >
          {params
            .filter((p) => p.group === group)
            .map((p) => (
              <Value key={p.id} owner={owner} stage={stage} param={p} bare />
            ))}
        </div>
      ))}
      <div className="grid grid-cols-2 gap-x-3">
        {params
          .filter((p) => !p.group)
          .map((p) => (
            <label key={p.id} className="flex items-center justify-between py-0.5">
              <span className="small text-quiet">{p.label}</span>
              <Value owner={owner} stage={stage} param={p} />
            </label>
          ))}
      </div>
      <KeySource owner={owner} stage={stage} />
    </>
  );
}

function Value({ owner, stage, param: p, bare }: Props & { param: StageParam; bare?: boolean }) {
  const kind = stageKind(stage.type);
  const value = valueOf(kind, stage.values, p.id);
  const set = (to: number) => ({ type: 'setStage' as const, owner, stage: stage.id, values: { [p.id]: to } });
  const label = `${kind.name} ${p.label}`;
  if (p.choices) {
    return (
      <Choice
        label={label}
        look="bare"
        className="small"
        value={String(value)}
        options={p.choices.map((c, i) => ({ value: String(i), label: c }))}
        onChange={(v) => edit(set(Number(v)))}
      />
    );
  }
  return (
    <NumberField
      label={label}
      value={value}
      unit={p.unit}
      min={p.min}
      max={p.max}
      step={p.step}
      digits={p.digits}
      log={p.log}
      reset={p.default}
      className={bare ? 'small' : ''}
      onPreview={(v) => preview(set(v))}
      onChange={(v) => edit(set(v))}
    />
  );
}

const OWN = 'own input';

/** Which sound the stage's detector listens to. */
function KeySource({ owner, stage }: Props) {
  const sources = useDocPart((doc) => [...doc.tracks, ...doc.buses].filter((s) => !keyWouldLoop(doc, owner.id, s.id)));
  if (!stageKind(stage.type).takesKey || owner.kind === 'line') return null;
  return (
    <label className="flex items-center justify-between py-0.5">
      <span className="small text-quiet">Listens to</span>
      <Choice
        label={`${stageKind(stage.type).name} listens to`}
        look="bare"
        className="small"
        value={stage.key ?? OWN}
        options={[{ value: OWN, label: OWN }, ...sources.map((s) => ({ value: s.id, label: s.name }))]}
        onChange={(v) => edit({ type: 'setStageKey', owner, stage: stage.id, key: v === OWN ? null : v })}
      />
    </label>
  );
}
