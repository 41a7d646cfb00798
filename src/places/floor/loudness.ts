import { useQueries, useQuery } from '@tanstack/react-query';
import { ask, useDoc } from '@/client';
import type { SessionDoc, Take, Track } from '@/core/session';

interface Facts {
  integrated: number;
  truePeak: number;
}

const query = (doc: Pick<SessionDoc, 'media'>, take: Take) => {
  const frames = doc.media[take.media]?.frames ?? 0;
  return {
    queryKey: ['loudness', take.media, frames],
    queryFn: () => ask<Facts>(`/api/media/${take.media}/loudness?frames=${frames}`),
    staleTime: Infinity,
    retry: 1,
  };
};

/** LUFS of a take; null while unknown, -Infinity when it is silent. */
export function useTakeLoudness(take: Take): number | null {
  const doc = useDoc('media');
  return useQuery(query(doc, take)).data?.integrated ?? null;
}

/** For each take that was measured: dB that bring it to the middle one's loudness. */
export function useLevelMatch(track: Track | undefined): (take: string) => number {
  const doc = useDoc('media');
  const takes = track?.takes ?? [];
  const found = useQueries({ queries: takes.map((t) => query(doc, t)) });
  const levels = new Map(takes.map((t, i) => [t.id, found[i]?.data?.integrated ?? null]));
  const known = [...levels.values()].filter((l): l is number => l !== null && Number.isFinite(l)).sort((a, b) => a - b);
  const middle = known[Math.floor(known.length / 2)];
  return (take) => {
    const own = levels.get(take);
    return own == null || !Number.isFinite(own) || middle === undefined ? 0 : Math.max(-20, Math.min(20, middle - own));
  };
}
