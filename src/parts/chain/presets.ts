'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { ask } from '@/client';
import type { Stage } from '@/core/session';
import type { PresetFacts } from '@/core/wire';

/** Presets of the user's own: of chains (`stage` null) or of one kind of stage. */
export function usePresets(stage: string | null): PresetFacts[] {
  const { data } = useQuery({ queryKey: ['presets'], queryFn: () => ask<{ presets: PresetFacts[] }>('/api/presets') });
  return (data?.presets ?? []).filter((p) => p.stage === stage);
}

/** What can be done with presets; the lists follow. */
export function usePresetActions() {
  const queries = useQueryClient();
  const done = (text: string) => {
    void queries.invalidateQueries({ queryKey: ['presets'] });
    toast.success(text);
  };
  const failed = (error: Error) => void toast.error(error.message);
  return {
    keep: (name: string, category: string, stage: string | null, chain: Stage[]) =>
      ask('/api/presets', { name, category, stage, chain: chain.map(plain) }).then(
        () => done(`${name} is kept.`),
        failed,
      ),
    remove: (preset: PresetFacts) =>
      ask(`/api/presets/${preset.id}`, undefined, 'DELETE').then(() => done(`${preset.name} is removed.`), failed),
    takeIn: async (file: File) => {
      try {
        const { taken } = await ask<{ taken: number }>('/api/presets', JSON.parse(await file.text()), 'PUT');
        done(`${taken} presets were taken in.`);
      } catch (error) {
        failed(
          error instanceof SyntaxError ? new Error(`${file.name} is no JSON; nothing was taken in.`) : (error as Error),
        );
      }
    },
  };
}

export const plain = ({ id, type, on, values }: Stage): Stage => ({ id, type, on, values });
