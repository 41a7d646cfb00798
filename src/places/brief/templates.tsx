'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Download, Plus, Save, Trash2, Upload } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, stored, useSession } from '@/client';
import { AskFirst, Dialog, FileButton } from '@/parts';
import { FlowPicture } from './flowPicture';
import { NewSessionForm } from './newSessionForm';
import { useTemplates } from './useTemplates';
import type { TemplateFacts } from '@/core/wire';

/** Set-ups to begin with: kept, exchanged as one file, begun from. */
export function Templates() {
  const session = useSession((s) => s.id)!;
  const list = useTemplates();
  const queries = useQueryClient();
  const again = () => void queries.invalidateQueries({ queryKey: ['templates'] });
  const failed = (error: Error) => toast.error(error.message);
  const [keeping, setKeeping] = useState(false);
  const [from, setFrom] = useState<TemplateFacts | null>(null);
  const remove = useMutation({
    mutationFn: (t: TemplateFacts) => ask(`/api/templates/${t.id}`, undefined, 'DELETE'),
    onSuccess: again,
    onError: failed,
  });
  const takeIn = async (file: File) => {
    const response = await fetch('/api/templates', { method: 'PUT', body: file });
    const answer = (await response.json()) as { name?: string; message?: string };
    if (response.ok) toast.success(`${answer.name} is among the templates.`);
    else toast.error(answer.message ?? 'The file could not be read.');
    again();
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="mb-2 flex gap-2">
        <button className="btn" data-action="brief.template" onClick={() => setKeeping(true)}>
          <Save size={14} /> Keep this session as a template
        </button>
        <FileButton label="Template file" accept=".zip" action="brief.template-in" onFile={(file) => void takeIn(file)}>
          <Upload size={14} /> Take a template file in
        </FileButton>
      </div>
      <ul className="grid min-h-0 grid-cols-2 content-start gap-2.5 overflow-y-auto pr-1 xl:grid-cols-3">
        {list.map((t) => (
          <li key={t.id} className="flex gap-3 rounded-md border bg-panel p-2.5" data-template={t.name}>
            <FlowPicture doc={t.doc} />
            <div className="flex min-w-0 flex-1 flex-col">
              <span className="truncate font-[600]" title={t.name}>
                {t.name}
              </span>
              <span className="small text-quiet">
                {t.category}
                {t.shipped ? '' : ` · own${t.files ? `, ${t.files} files` : ''}`}
              </span>
              <span className="small line-clamp-2 text-quiet">{t.note}</span>
              <span className="mt-auto flex gap-1 pt-1">
                <button className="chip" aria-label={`Begin from ${t.name}`} onClick={() => setFrom(t)}>
                  <Plus size={13} /> Begin
                </button>
                {!t.shipped && (
                  <>
                    <a
                      className="chip"
                      href={`/api/templates/${t.id}`}
                      download
                      aria-label={`Export ${t.name}`}
                      title="As one file"
                    >
                      <Download size={13} />
                    </a>
                    <AskFirst act="Remove it" leave="Keep it" onAct={() => remove.mutate(t)}>
                      {(askFirst) => (
                        <button
                          className="chip"
                          aria-label={`Remove template ${t.name}`}
                          title="Remove"
                          onClick={askFirst}
                        >
                          <Trash2 size={13} />
                        </button>
                      )}
                    </AskFirst>
                  </>
                )}
              </span>
            </div>
          </li>
        ))}
      </ul>
      <KeepDialog
        open={keeping}
        onClose={() => setKeeping(false)}
        onKeep={async (name, category, media) => {
          await stored();
          await ask('/api/templates', { session, name, category, media }).then(() => {
            setKeeping(false);
            again();
          }, failed);
        }}
      />
      <Dialog
        open={from !== null}
        onClose={() => setFrom(null)}
        title={`New session from ${from?.name ?? ''}`}
        note="The format may be another one."
      >
        {from && <NewSessionForm template={from} onMade={() => setFrom(null)} />}
      </Dialog>
    </div>
  );
}

interface KeepProps {
  open: boolean;
  onClose: () => void;
  onKeep: (name: string, category: string, media: boolean) => void;
}

function KeepDialog({ open, onClose, onKeep }: KeepProps) {
  const [name, setName] = useState('');
  const [category, setCategory] = useState('own');
  const [media, setMedia] = useState(false);
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Keep as a template"
      note="Tracks, buses, patches, line sheet, chains, room tones and settings go along; takes do not."
    >
      <form
        className="flex flex-col gap-2.5"
        onSubmit={(e) => {
          e.preventDefault();
          onKeep(name, category, media);
        }}
      >
        <input
          aria-label="Name of the template"
          className="field"
          placeholder="Name"
          autoFocus
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
        />
        <input
          aria-label="Category"
          className="field"
          placeholder="Category"
          value={category}
          maxLength={40}
          onChange={(e) => setCategory(e.target.value)}
        />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-(--brass)"
            checked={media}
            onChange={(e) => setMedia(e.target.checked)}
          />
          with clips and their files
        </label>
        <div className="flex justify-end">
          <button className="btn btn-main" disabled={!name.trim()}>
            Keep it
          </button>
        </div>
      </form>
    </Dialog>
  );
}
