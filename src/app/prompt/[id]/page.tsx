import { Prompt } from '@/places/prompt/prompt';

export const dynamic = 'force-dynamic';

export default async function PromptPage({ params }: { params: Promise<{ id: string }> }) {
  return <Prompt session={(await params).id} />;
}
