import { edit, useDoc } from '@/client';
import { TextField } from '@/parts';

/** What a report says beside the figures: for whom it is, whom to ask, and notes. */
export function OnTheReport() {
  const { about } = useDoc('about');
  return (
    <>
      <h2 className="title mb-2 mt-5">On the report</h2>
      <div className="flex flex-col gap-1.5">
        <label className="flex items-center gap-2">
          <span className="w-14.5 shrink-0 text-quiet">For</span>
          <TextField
            label="For whom it is made"
            placeholder="client"
            value={about?.client ?? ''}
            className="flex-1"
            mayBeEmpty
            maxLength={120}
            onChange={(client) => edit({ type: 'setSession', client })}
          />
        </label>
        <label className="flex items-center gap-2">
          <span className="w-14.5 shrink-0 text-quiet">Contact</span>
          <TextField
            label="Whom to ask"
            placeholder="name, mail or telephone"
            value={about?.contact ?? ''}
            className="flex-1"
            mayBeEmpty
            maxLength={200}
            onChange={(contact) => edit({ type: 'setSession', contact })}
          />
        </label>
        <textarea
          key={about?.notes ?? ''}
          aria-label="Notes on the report"
          placeholder="Notes for the client"
          className="field h-14.5 resize-none py-1.5"
          maxLength={2000}
          defaultValue={about?.notes ?? ''}
          onKeyDown={(e) => e.stopPropagation()}
          onBlur={(e) => e.target.value !== (about?.notes ?? '') && edit({ type: 'setSession', notes: e.target.value })}
        />
      </div>
    </>
  );
}
