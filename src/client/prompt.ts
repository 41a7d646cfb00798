import { create } from 'zustand';
import type { PromptNews } from '@/core/prompt';
import type { SharedLink } from '@/core/wire';
import { ask } from './http';
import { useSession } from './session';
import { chosenCue, position, useTransport } from './studio';

const EVERY = 100;
/** Over the network so often (ms): in between the other window goes on by itself. */
const NETWORK_EVERY = 500;

export const promptChannel = (session: string): BroadcastChannel => new BroadcastChannel(`wide-room-prompt-${session}`);

/** Milliseconds since 1970, finer than a frame. */
export const timeNow = (): number => performance.timeOrigin + performance.now();

export const useSharedLink = create<{ link: SharedLink | null }>(() => ({ link: null }));

const url = (session: string) => `/api/sessions/${session}/share`;

/** Looks whether the performer's window is open to the network, and how many have opened it. */
export async function lookAtLink(session: string): Promise<void> {
  useSharedLink.setState({ link: await ask<SharedLink | null>(url(session)) });
}

export async function openToNetwork(session: string): Promise<void> {
  useSharedLink.setState({ link: await ask<SharedLink>(url(session), {}) });
}

export async function withdrawLink(session: string): Promise<void> {
  await ask(url(session), undefined, 'DELETE');
  useSharedLink.setState({ link: null });
}

function newsNow(): PromptNews {
  const { state, plan } = useTransport.getState();
  return {
    state: state === 'starting' ? 'stopped' : state,
    position: Math.round(position()),
    at: timeNow(),
    cue: plan?.cue ?? chosenCue()?.id ?? null,
    lineAt: plan ? plan.in : null,
  };
}

/** Tells the performer's windows, here and in the network, where things stand; returns what ends it. */
export function tellPrompt(session: string): () => void {
  const channel = promptChannel(session);
  let sent = 0;
  let told = '';
  let underWay = false;
  const overNetwork = (news: PromptNews, urgent: boolean) => {
    if (!useSharedLink.getState().link || underWay || (!urgent && news.at - sent < NETWORK_EVERY)) return;
    sent = news.at;
    underWay = true;
    void ask(`${url(session)}/news`, news)
      .catch(() => {
        // The server is away; the performer's window stands still until it is back.
      })
      .finally(() => (underWay = false));
  };
  const tell = () => {
    if (!useSession.getState().doc) return;
    const news = newsNow();
    channel.postMessage(news);
    const what = JSON.stringify([news.state, news.cue, news.lineAt, news.state === 'stopped' ? news.position : 0]);
    overNetwork(news, what !== told);
    // Told again where it did not go out yet.
    if (!underWay || sent === news.at) told = what;
  };
  const timer = setInterval(tell, EVERY);
  // A link that was opened before this window was loaded goes on being told.
  void lookAtLink(session).catch(() => {});
  return () => {
    clearInterval(timer);
    channel.close();
    useSharedLink.setState({ link: null });
  };
}
