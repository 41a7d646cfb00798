import { useQuery } from '@tanstack/react-query';
import { ask } from '@/client';
import type { TemplateFacts } from '@/core/wire';

/** Those that ship with the application, and those that were kept. */
export const useTemplates = () =>
  useQuery({ queryKey: ['templates'], queryFn: () => ask<TemplateFacts[]>('/api/templates') }).data ?? [];
