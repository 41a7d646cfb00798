import { useSession } from './session';
import { chosenCue, position, useTransport } from './studio';

/** What the performer's window is told. */
export interface PromptNews {
  state: 'stopped' | 'playing' | 'recording';
  position: number;
  cue: string | null;
  /** Sample at which the line starts, while something leads in. */
  lineAt: number | null;
}

const EVERY = 100;
export const promptChannel = (session: string): BroadcastChannel => new BroadcastChannel(`wide-room-prompt-${session}`);

/** Tells the performer's window, if there is one, where things stand; returns what ends it. */
export function tellPrompt(session: string): () => void {
  const channel = promptChannel(session);
  const timer = setInterval(() => {
    if (!useSession.getState().doc) return;
    const { state, plan } = useTransport.getState();
    const news: PromptNews = {
      state: state === 'starting' ? 'stopped' : state,
      position: position(),
      cue: plan?.cue ?? chosenCue()?.id ?? null,
      lineAt: plan ? plan.in : null,
    };
    channel.postMessage(news);
  }, EVERY);
  return () => {
    clearInterval(timer);
    channel.close();
  };
}
