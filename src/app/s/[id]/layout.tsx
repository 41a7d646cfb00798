import type { ReactNode } from 'react';
import { Frame } from '@/places/frame/frame';

export const dynamic = 'force-dynamic';

export default async function SessionLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ id: string }>;
}) {
  return <Frame session={(await params).id}>{children}</Frame>;
}
