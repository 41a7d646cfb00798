import { writeFileSync } from 'node:fs';
import { DATA_OFFSET, FrameCodec, SampleFormat } from '../src/core/files';
import { ChannelSet, type Kernels } from '../src/core/kernels';
import { sessionFileHeader } from '../src/core/print';
import { newSession } from '../src/core/session';
import type { LayoutId } from '../src/core/speakers';
import { makeSessionDir, mediaPath } from '../src/server/config';
import { newKernels } from '../src/server/kernels';
import { addMedia, makePeaks } from '../src/server/media';
import { createSession, listSessions } from '../src/server/sessions';
import { lineSounds } from './lineSounds';
import { DEMO_ID, demoClips, demoSession, type DemoClip } from './scenario';
import { frames } from './sounds/random';

const WIDTHS: Record<number, LayoutId> = { 1: 'mono', 2: 'stereo', 6: '5.1' };

/** Bytes of a 24-bit Broadcast WAV with the clip's place in it. */
function fileOf(k: Kernels, clip: DemoClip, channels: Float32Array[]): Uint8Array {
  const n = channels[0]!.length;
  const set = new ChannelSet(k, channels.length, n);
  channels.forEach((c, i) => set.view(i).set(c));
  const codec = new FrameCodec(k, SampleFormat.int24, channels.length, n);
  const doc = newSession('The Lamp at Sallow Point', 'SP', {
    sampleRate: 48000,
    wordLength: 24,
    fileKind: 'Broadcast WAV',
    frameRate: '25',
    startTimecode: '10:00:00:00',
    layout: '5.1',
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

/** Makes the demo's media and enters its session, unless it is there. The database must be open. */
export async function installDemo(say: (text: string) => void, plain = false): Promise<void> {
  if ((await listSessions()).some((s) => s.id === DEMO_ID)) return;
  const k = newKernels();
  const lines = await lineSounds(k);
  const made = [];
  const rows = [];
  makeSessionDir(DEMO_ID);
  for (const clip of demoClips(lines)) {
    say(`  ${clip.file}`);
    const channels = clip.sound();
    const path = mediaPath(DEMO_ID, clip.file);
    writeFileSync(path, fileOf(k, clip, channels));
    await makePeaks(k, path);
    const media = `demo-${clip.file.replace(/\.wav$/, '').toLowerCase()}`;
    const facts = { frames: channels[0]!.length, channels: channels.length };
    made.push({ ...clip, media, ...facts });
    rows.push({
      id: media,
      session: DEMO_ID,
      file: clip.file,
      kind: clip.take ? ('take' as const) : ('file' as const),
      sampleRate: 48000,
      ...facts,
    });
  }
  await createSession(demoSession(made, plain), DEMO_ID);
  for (const row of rows) await addMedia(row);
}
