import { writeFileSync } from 'node:fs';
import { DATA_OFFSET, FrameCodec, SampleFormat } from '../src/core/files';
import { ChannelSet, type Kernels } from '../src/core/kernels';
import { sessionFileHeader } from '../src/core/print';
import { newSession, type SessionDoc } from '../src/core/session';
import type { LayoutId } from '../src/core/speakers';
import { makeSessionDir, mediaPath } from '../src/server/config';
import { newKernels } from '../src/server/kernels';
import { addMedia, makePeaks } from '../src/server/media';
import { createSession, listSessions } from '../src/server/sessions';
import { DOME_ID, domeClips, domeSession } from './dome';
import { lineSounds } from './lineSounds';
import { DEMO_ID, demoClips, demoSession, type DemoClip } from './scenario';
import { frames } from './sounds/random';

const WIDTHS: Record<number, LayoutId> = { 1: 'mono', 2: 'stereo', 6: '5.1', 12: '7.1.4' };

/** What is entered: a session, the sounds it is made of, and how it is made of them. */
interface Demo {
  id: string;
  name: string;
  code: string;
  layout: LayoutId;
  clips: DemoClip[];
  session(made: (DemoClip & { media: string; frames: number; channels: number })[]): SessionDoc;
}

/** Bytes of a 24-bit Broadcast WAV with the clip's place in it. */
function fileOf(k: Kernels, { name, code, layout }: Demo, clip: DemoClip, channels: Float32Array[]): Uint8Array {
  const n = channels[0]!.length;
  const set = new ChannelSet(k, channels.length, n);
  channels.forEach((c, i) => set.view(i).set(c));
  const codec = new FrameCodec(k, SampleFormat.int24, channels.length, n);
  const doc = newSession(name, code, {
    sampleRate: 48000,
    wordLength: 24,
    fileKind: 'Broadcast WAV',
    frameRate: '25',
    startTimecode: '10:00:00:00',
    layout,
  });
  const header = sessionFileHeader(doc, {
    description: clip.file.replace(/\.wav$/, ''),
    layout: WIDTHS[channels.length]!,
    start: frames(clip.at),
    frames: n,
    made: '2026-03-02T09:00:00',
  });
  const { bytes } = codec.encode(set.table, n);
  const out = new Uint8Array(DATA_OFFSET + bytes.length + (bytes.length & 1));
  out.set(header);
  out.set(bytes, DATA_OFFSET);
  codec.free();
  set.free();
  return out;
}

async function enter(k: Kernels, demo: Demo, say: (text: string) => void): Promise<void> {
  if ((await listSessions()).some((s) => s.id === demo.id)) return;
  const made = [];
  const rows = [];
  makeSessionDir(demo.id);
  for (const clip of demo.clips) {
    say(`  ${clip.file}`);
    const channels = clip.sound();
    const path = mediaPath(demo.id, clip.file);
    writeFileSync(path, fileOf(k, demo, clip, channels));
    await makePeaks(k, path);
    const media = `demo-${clip.file.replace(/\.wav$/, '').toLowerCase()}`;
    const facts = { frames: channels[0]!.length, channels: channels.length };
    made.push({ ...clip, media, ...facts });
    const kind = clip.take ? ('take' as const) : ('file' as const);
    rows.push({ id: media, session: demo.id, file: clip.file, kind, sampleRate: 48000, ...facts });
  }
  await createSession(demo.session(made), demo.id);
  for (const row of rows) await addMedia(row);
}

/**
 * Makes the demo's media and enters its sessions, those that are not there; `plain`: one session without groups, returns
 * and lanes, as tests like it. The database must be open.
 */
export async function installDemo(say: (text: string) => void, plain = false): Promise<void> {
  const k = newKernels();
  const lines = await lineSounds(k);
  const dome: Demo = {
    ...{ id: DOME_ID, name: 'The Lamp Room', code: 'LR', layout: '7.1.4' },
    ...{ clips: domeClips(lines), session: domeSession },
  };
  const lamp: Demo = {
    ...{ id: DEMO_ID, name: 'The Lamp at Sallow Point', code: 'SP', layout: '5.1' },
    ...{ clips: demoClips(lines), session: (made) => demoSession(made, plain) },
  };
  // The newest session is the one that is opened.
  for (const demo of plain ? [lamp] : [dome, lamp]) await enter(k, demo, say);
}
