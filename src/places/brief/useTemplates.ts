import { useQuery } from '@tanstack/react-query';
import { ask } from '@/client';
import type { SessionDoc } from '@/core/session';

/** A set-up to begin with, as the server tells of it. */
export interface Template {
  id: string;
  name: string;
  category: string;
  note: string;
  shipped: boolean;
  files: number;
  doc: SessionDoc;
}

/** Those that ship with the application, and those that were kept. */
export const useTemplates = () =>
  useQuery({ queryKey: ['templates'], queryFn: () => ask<Template[]>('/api/templates') }).data ?? [];
