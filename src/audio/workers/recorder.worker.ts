import { bytesPerSample, formatOfWord } from '@/core/files';
import { Kernels } from '@/core/kernels';
import type { TakeFacts } from '@/core/session';
import { withChange } from './chainChanges';
import { ASSETS } from '../generated/assets';
import type { FromRecorder, RecordJob, ToRecorder } from '../recorder';
import { Delivery, Undeliverable } from './delivery';
import { TakeRecording } from './takeRecording';
import { leftTakes, TakeFiles, type Journal } from './takeStore';

/** Between looks at the rings, and before the server is tried again (ms). */
const PAUSE = 100;
const AGAIN = 700;
/**
 * Between two pieces of a take that are brought to the server (ms): each of them is one request and one write to its disk.
 * Of many takes each comes less often, so that sixty-four ask the server no more often than a few do.
 */
const SEND_EVERY = 400;
const FEW = 4;
/** Between two times at which a take is brought to the browser's disk itself (ms). */
const FLUSH_EVERY = 1000;
/** Longest time between looks for takes of an earlier page (ms). */
const LONGEST_WAIT = 10_000;
/** Refused deliveries are tried for so long: the edit that a take needs may be on its way (ms). */
const REFUSED_FOR = 30_000;
/** The engine tells where a take ended within this time (ms). */
const WAITS_FOR_ENGINE = 2_000;

const post = (message: FromRecorder) => postMessage(message);
const kernels = fetch(ASSETS.kernels)
  .then((r) => WebAssembly.compileStreaming(r))
  .then((module) => new Kernels(module));
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
/** Frames at which each running recording ends, once known. */
const ends = new Map<string, number>();
/** Where what is heard of a take ends, when it was ended by hand. */
const shownEnds = new Map<string, number>();
const active = new Set<string>();
const waiting = new Map<string, number>();

/** What becomes known of each running take. */
const known = new Map<string, { facts: TakeFacts; fresh: boolean }>();

function noteFact(id: string, change: (facts: TakeFacts) => TakeFacts): void {
  const k = known.get(id);
  if (!k) return;
  k.facts = change(k.facts);
  k.fresh = true;
  post({ kind: 'facts', id, facts: k.facts });
}

async function record(job: RecordJob): Promise<void> {
  active.add(job.id);
  known.set(job.id, { facts: {}, fresh: false });
  const files = await opened(job);
  const delivery = new Delivery(files);
  const recording = new TakeRecording(await kernels, job.ring, job.channels, job.format.wordLength, files);
  let told = false;
  let nextTry = 0;
  let nextFlush = 0;
  let sending: Promise<void> | null = null;
  for (;;) {
    try {
      const pairs = recording.drain(ends.get(job.id) ?? null);
      // A dying page loses nothing that was written; what is flushed outlives a power cut too.
      if (pairs.length && Date.now() >= nextFlush) {
        files.flush();
        nextFlush = Date.now() + FLUSH_EVERY;
      }
      post({ kind: 'peaks', id: job.id, pairs, frames: recording.frames, delivered: delivery.delivered });
    } catch (error) {
      // The ring holds what comes for some seconds, and what does not fit is told as a gap.
      post({
        kind: 'trouble',
        id: job.id,
        message: `The recording cannot be kept in this browser (${(error as Error).message}). It is tried again; make room on the disk.`,
      });
    }
    await noteGaps(job.id, recording, files);
    if (isOver(job.id, recording)) break;
    // Sending goes on beside: a slow server never holds up what is taken from the rings.
    if (!sending && recording.frames > 0 && Date.now() >= nextTry) {
      nextTry = Date.now() + SEND_EVERY * Math.max(1, active.size / FEW);
      sending = (async () => {
        try {
          if (!told) {
            post({ kind: 'begun', id: job.id, ...(await delivery.begin()) });
            told = true;
          }
          await delivery.push();
        } catch (error) {
          nextTry = Date.now() + AGAIN;
          post({
            kind: 'trouble',
            id: job.id,
            message: `The server does not take the recording (${(error as Error).message}). It goes on safely in this browser and is delivered as soon as the server is back.`,
          });
        } finally {
          sending = null;
        }
      })();
    }
    await pause(PAUSE);
  }
  await sending;
  files.flush();
  compare(job, recording);
  await noteGaps(job.id, recording, files);
  await files.note({ shownEnd: shownEnds.get(job.id) }).catch(() => {});
  for (const map of [ends, shownEnds, known]) map.delete(job.id);
  recording.free();
  await deliver(files, delivery, recording.frames);
}

// The ring holds what comes meanwhile.
async function opened(job: RecordJob): Promise<TakeFiles> {
  for (;;) {
    try {
      return await keptFiles(job);
    } catch (error) {
      post({
        kind: 'trouble',
        id: job.id,
        message: `This browser does not keep the recording (${(error as Error).message}); it is tried again. What cannot be kept is told as a gap.`,
      });
      await pause(PAUSE);
    }
  }
}

async function keptFiles({ id, session, track, start, format, chains, keepDry, channels, purpose }: RecordJob) {
  const block = channels * bytesPerSample(formatOfWord(format.wordLength));
  return TakeFiles.create({
    id,
    session,
    track,
    start,
    block,
    format,
    chains,
    keepDry,
    ...(purpose ? { purpose } : {}),
  });
}

// An engine that was closed does not tell where it ended; then what the page said counts.
function isOver(id: string, recording: TakeRecording): boolean {
  if (recording.complete) return true;
  const end = ends.get(id);
  if (end === undefined || recording.frames < end) return false;
  const waited = (waiting.get(id) ?? 0) + PAUSE;
  waiting.set(id, waited);
  return waited > WAITS_FOR_ENGINE;
}

async function noteGaps(id: string, recording: TakeRecording, files: TakeFiles): Promise<void> {
  const k = known.get(id);
  if (!k) return;
  const lost = recording.gaps.reduce((sum, g) => sum + g.frames, 0);
  if (lost !== (k.facts.gaps ?? []).reduce((sum, g) => sum + g.frames, 0))
    noteFact(id, (facts) => ({ ...facts, gaps: recording.gaps.map((g) => ({ ...g })) }));
  if (!k.fresh) return;
  k.fresh = false;
  await files.note({ facts: k.facts }).catch(() => (k.fresh = true));
}

// The last comparison of the way from the sound's thread to the browser's disk.
function compare(job: RecordJob, recording: TakeRecording): void {
  waiting.delete(job.id);
  if (recording.frames === 0) return;
  if (!recording.complete) return;
  if (!recording.same)
    noteFact(job.id, (facts) => ({
      ...facts,
      faults: [...(facts.faults ?? []), 'Between the sound’s thread and this browser’s disk samples were altered.'],
    }));
}

// Until the server has everything, the take stays in the browser.
async function deliver(files: TakeFiles, delivery: Delivery, frames: number): Promise<void> {
  const { id } = files.journal;
  active.add(id);
  const began = Date.now();
  for (;;) {
    try {
      const faults = frames > 0 ? (await delivery.finish(frames)).faults : [];
      await files.close(true);
      post({ kind: 'finished', id, faults });
      break;
    } catch (error) {
      post({
        kind: 'trouble',
        id,
        message: `The take waits in this browser: ${(error as Error).message}. Keep this page open; it is delivered as soon as possible.`,
      });
      if (error instanceof Undeliverable && Date.now() - began > REFUSED_FOR) {
        await files.close(false);
        break;
      }
      await pause(AGAIN);
    }
  }
  active.delete(id);
}

const leftFacts = ({ journal: { id, session, track, block, format }, bytes }: { journal: Journal; bytes: number }) => ({
  id,
  session,
  track,
  // What an earlier release left does not say its rate.
  seconds: format ? Math.floor(bytes / block) / format.sampleRate : null,
});

/**
 * Takes that an earlier page could not deliver. A page that has just died lets go of its files a little later, and
 * another window may hold them for as long as it records: looked for again and again, less and less often, until
 * none is left.
 */
async function deliverLeft(): Promise<void> {
  for (let wait = AGAIN; ; wait = Math.min(wait * 1.2, LONGEST_WAIT)) {
    try {
      const left = (await leftTakes()).filter(({ journal }) => !active.has(journal.id));
      post({ kind: 'left', takes: left.map(leftFacts) });
      if (left.length === 0) return;
      for (const { journal } of left) await deliverOne(journal).catch(() => {});
    } catch {
      // The private file system is not to be had at this moment.
    }
    await pause(wait);
  }
}

// Throws when another window of this browser holds the files: that one delivers them.
async function deliverOne(journal: Journal): Promise<void> {
  const files = await TakeFiles.open(journal);
  await deliver(files, new Delivery(files), await files.evened());
}

onmessage = ({ data }: MessageEvent<ToRecorder>) => {
  if (data.kind === 'record') {
    record(data.job).catch((error: Error) =>
      post({ kind: 'trouble', id: data.job.id, message: `Recording failed: ${error.message}` }),
    );
  } else if (data.kind === 'stop') {
    ends.set(data.id, data.frames);
    if (data.shownEnd !== undefined) shownEnds.set(data.id, data.shownEnd);
  } else if (data.kind === 'chains')
    noteFact(data.id, (facts) => ({ ...facts, chainChanges: withChange(facts.chainChanges, data) }));
  else void deliverLeft();
};
