'use client';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { Controller, useForm, type Resolver } from 'react-hook-form';
import { ask, askInLines, useLayouts } from '@/client';
import { EditRefused, NewSession, readAs, SAMPLE_RATES, WORD_LENGTHS, type SessionDoc } from '@/core/session';
import { FRAME_RATES } from '@/core/units';
import { Choice } from '@/parts';
import { useTemplates } from './useTemplates';

type Fields = Pick<
  NewSession,
  'name' | 'code' | 'sampleRate' | 'wordLength' | 'frameRate' | 'startTimecode' | 'layout'
>;

// The server's own rules, so that the form and the server never disagree.
const resolver: Resolver<Fields> = (values) => {
  try {
    readAs(NewSession, values, '').check();
    return { values, errors: {} };
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    const found: Record<string, { type: string; message: string }> = {};
    for (const sentence of error.message.replace(/^: /, '').replace(/\.$/, '').split('; ')) {
      const [field, ...rest] = sentence.split(': ');
      found[(field ?? '').split(' ')[0]!] = { type: 'rule', message: rest.join(': ') || sentence };
    }
    return { values: {}, errors: found };
  }
};

const START: Fields = {
  name: '',
  code: '',
  sampleRate: 48000,
  wordLength: 24,
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
};

const startOf = ({ format }: SessionDoc): Fields => ({
  ...START,
  sampleRate: format.sampleRate,
  wordLength: format.wordLength,
  frameRate: format.frameRate,
  startTimecode: format.startTimecode,
  layout: format.layout,
});

/** How far it is, with a template that has files. */
interface Making {
  done: number;
  total: number;
  name: string;
}

/** Stands for no template in the list of them: a choice has no empty value. */
const NOTHING = '-';

/** What the client states, before anything is recorded. */
export function NewSessionForm({
  onMade,
  template,
}: {
  onMade?: () => void;
  template?: { id: string; doc: SessionDoc };
}) {
  const router = useRouter();
  const layouts = useLayouts();
  const form = useForm<Fields>({ resolver, defaultValues: template ? startOf(template.doc) : START });
  const { errors, isSubmitting } = form.formState;
  const templates = useTemplates();
  const [from, setFrom] = useState('');
  const [making, setMaking] = useState<Making | null>(null);
  const given = useRef<AbortController | null>(null);
  const beginsWith = template?.id ?? from;
  // What a template is in is proposed; a name that was typed stays.
  const begin = (id: string) => {
    setFrom(id);
    const chosen = templates.find((t) => t.id === id);
    if (!chosen) return;
    const { name: _, code: _code, ...format } = startOf(chosen.doc);
    for (const [field, value] of Object.entries(format)) form.setValue(field as keyof Fields, value);
  };
  const submit = form.handleSubmit(async (values) => {
    try {
      const controller = (given.current = new AbortController());
      const { id } = beginsWith
        ? await askInLines<{ id: string }>(
            '/api/sessions',
            { ...values, template: beginsWith },
            (line) => setMaking(line as unknown as Making),
            controller.signal,
          )
        : await ask<{ id: string }>('/api/sessions', values);
      onMade?.();
      router.push(`/s/${id}/brief`);
    } catch (error) {
      if (given.current?.signal.aborted) form.setError('root', { message: 'It was given up. Nothing of it was kept.' });
      else form.setError('root', { message: (error as Error).message });
    } finally {
      setMaking(null);
    }
  });
  const row = (id: keyof Fields, label: string, control: React.ReactNode) => (
    <div className="grid grid-cols-[120px_1fr] items-center gap-x-3">
      <label htmlFor={id} className="text-quiet">
        {label}
      </label>
      {control}
      {errors[id] && (
        <p role="alert" className="small col-start-2 mt-1 text-stop">
          {errors[id]?.message}
        </p>
      )}
    </div>
  );
  const pick = <T extends string>(
    id: 'sampleRate' | 'wordLength' | 'frameRate' | 'layout',
    label: string,
    options: { value: T; label: string }[],
    read: (v: T) => Fields[typeof id] = (v) => v as Fields[typeof id],
  ) =>
    row(
      id,
      label,
      <Controller
        control={form.control}
        name={id}
        render={({ field }) => (
          <Choice
            label={label}
            value={String(field.value) as T}
            options={options}
            onChange={(v) => field.onChange(read(v))}
          />
        )}
      />,
    );
  return (
    <form onSubmit={(e) => void submit(e)} className="flex flex-col gap-2.5" noValidate>
      {row(
        'name',
        'Name',
        <input id="name" autoFocus className="field" placeholder="What it is called" {...form.register('name')} />,
      )}
      {row(
        'code',
        'Short form',
        <input
          id="code"
          className="field figure"
          placeholder="Begins every file name, such as SP"
          {...form.register('code')}
        />,
      )}
      {!template && templates.length > 0 && (
        <div className="grid grid-cols-[120px_1fr] items-center gap-x-3">
          <span className="text-quiet">Begins with</span>
          <Choice
            label="Begins with"
            value={from || NOTHING}
            options={[
              { value: NOTHING, label: 'the usual buses, no track' },
              ...templates.map((t) => ({ value: t.id, label: t.name, note: t.category })),
            ]}
            onChange={(id) => begin(id === NOTHING ? '' : id)}
          />
        </div>
      )}
      {pick(
        'sampleRate',
        'Sample rate',
        SAMPLE_RATES.map((r) => ({ value: String(r), label: `${r / 1000} kHz` })),
        Number,
      )}
      {pick(
        'wordLength',
        'Word length',
        WORD_LENGTHS.map((w) => ({ value: String(w), label: w === 32 ? '32 bit float' : `${w} bit` })),
        (v) => Number(v) as Fields['wordLength'],
      )}
      {pick(
        'frameRate',
        'Frame rate',
        FRAME_RATES.map((r) => ({ value: r.id, label: r.label })),
      )}
      {row(
        'startTimecode',
        'Starts at',
        <input id="startTimecode" className="field figure" {...form.register('startTimecode')} />,
      )}
      {pick(
        'layout',
        'Mix in',
        layouts.map((l) => ({ value: l.id, label: l.name })),
      )}
      {errors.root && (
        <p role="alert" className="small text-stop">
          {errors.root.message}
        </p>
      )}
      {making && (
        <div className="flex items-center gap-3" role="status">
          <progress
            className="h-1.5 w-35 accent-brass"
            max={making.total}
            value={making.done}
            aria-label="Files of the new session"
          />
          <span className="small truncate text-quiet">
            file {making.done + 1} of {making.total}: {making.name}
          </span>
          <button type="button" className="btn btn-bare ml-auto" onClick={() => given.current?.abort()}>
            Give up
          </button>
        </div>
      )}
      <div className="mt-2 flex justify-end">
        <button className="btn btn-main" disabled={isSubmitting}>
          Make the session
        </button>
      </div>
    </form>
  );
}
