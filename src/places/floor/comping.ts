import { nanoid } from 'nanoid';
import { edit, samplesOf, useSession } from '@/client';
import { PairListener } from '@/core/measure';
import { JOINT_SECONDS, jointCurve, type FadeCurve, type SessionDoc, type Take, type Track } from '@/core/session';

/**
 * Brings a range of a take into the comp; the law of its crossfades goes by how alike the pieces are that meet. When
 * their sound cannot be looked at, equal power is taken, which is right for different takes.
 */
export async function chooseRange(
  track: string,
  { take, start, end }: { take: string; start: number; end: number },
): Promise<void> {
  const { doc } = useSession.getState();
  const row = doc?.tracks.find((t) => t.id === track);
  const chosen = row?.takes.find((t) => t.id === take);
  if (!doc || !row || !chosen) return;
  const curve = await lawAt(doc, row, chosen, start).catch((): FadeCurve => 'power');
  edit({ type: 'compRange', track, take, start, end, id: `comp-${nanoid(8)}`, curve });
}

/** Law for the joint at `at`, where the comp as it is meets the take. */
async function lawAt(doc: SessionDoc, track: Track, take: Take, at: number): Promise<FadeCurve> {
  const left = track.clips.find((c) => c.start < at && c.start + c.length >= at);
  const frames = Math.round(JOINT_SECONDS * doc.format.sampleRate * 4);
  const from = at - frames / 2;
  if (!left || from < take.start || left.offset + from - left.start < 0) return 'power';
  const [a, b] = await Promise.all([
    samplesOf(left.media, left.offset + from - left.start, frames),
    samplesOf(take.media, from - take.start, frames),
  ]);
  const pair = new PairListener();
  pair.run(a[0]!, b[0]!);
  return jointCurve(pair.correlation);
}
