import { SharedPrompt } from '@/places/prompt/sharedPrompt';

export const dynamic = 'force-dynamic';

/** The performer's window on another machine. */
export default async function SharedPromptPage({ params }: { params: Promise<{ token: string }> }) {
  return <SharedPrompt token={(await params).token} />;
}
