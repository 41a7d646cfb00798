// Reading, writing, converting and drawing files: against ffmpeg and sox.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { FrameCodec, parseAudio, PEAK_LEVELS, PeakPyramid, spans, STREAM_SPAN } from '../src/core/files';
import { newKernels } from '../src/server/kernels';
import { convertAudio } from '../src/server/media/convert';
import { FileSource } from '../src/server/media/fileSource';
import { at44, hour, programme } from './media';
import { peakMemory, race, report } from './timing';

const k = newKernels();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-bench-'));
let turn = 0;
const fresh = (ending: string) => path.join(dir, `${turn++}.${ending}`);
const tool = (command: string, ...args: string[]) => {
  const r = spawnSync(command, args, { encoding: 'utf8' });
  if (r.status !== 0) throw new Error(r.stderr);
};

async function decode(file: string, each: (codec: FrameCodec, n: number) => void): Promise<void> {
  const source = await FileSource.open(file);
  const info = await parseAudio(source);
  const codec = new FrameCodec(k, info.format, info.channels, STREAM_SPAN);
  for await (const bytes of spans(source, info, STREAM_SPAN)) each(codec, codec.decode(bytes));
  codec.free();
  await source.close();
}

async function rewrite(file: string, sampleRate: number, format: 24 | 132): Promise<void> {
  const source = await FileSource.open(file);
  await convertAudio(k, source, fresh('wav'), { kind: 'wav', sampleRate, format });
  await source.close();
}

const ten = programme();
report({
  case: 'decode 24 bit, 10 min of stereo',
  reference: 'ffmpeg -f null',
  ...(await race(
    7,
    () => decode(ten, () => {}),
    () => tool('ffmpeg', '-v', 'error', '-threads', '1', '-i', ten, '-f', 'null', '-'),
  )),
  aim: 5,
});
report({
  case: 'decode and encode 24 bit, 10 min of stereo, through floats to a new file',
  reference: 'ffmpeg -af aformat=flt -c:a pcm_s24le',
  ...(await race(
    5,
    () => rewrite(ten, 48_000, 24),
    () =>
      tool(
        'ffmpeg',
        '-v',
        'error',
        '-y',
        '-threads',
        '1',
        '-i',
        ten,
        '-af',
        'aformat=sample_fmts=flt',
        '-c:a',
        'pcm_s24le',
        fresh('wav'),
      ),
  )),
  aim: 3,
});
const old = at44();
report({
  case: '44.1 to 48 kHz, 10 min of stereo, file to file',
  reference: 'sox rate -v',
  ...(await race(
    5,
    () => rewrite(old, 48_000, 24),
    () => tool('sox', '-D', old, '-b', '24', fresh('wav'), 'rate', '-v', '48000'),
  )),
  aim: 1,
});
report({
  case: '44.1 to 48 kHz, 10 min of stereo, file to file',
  reference: 'ffmpeg aresample=resampler=soxr:precision=28',
  ...(await race(
    5,
    () => rewrite(old, 48_000, 24),
    () =>
      tool(
        'ffmpeg',
        '-v',
        'error',
        '-y',
        '-threads',
        '1',
        '-i',
        old,
        '-af',
        'aresample=48000:resampler=soxr:precision=28',
        '-c:a',
        'pcm_s24le',
        fresh('wav'),
      ),
  )),
  aim: 1.1,
});
const long = hour();
report({
  case: `peaks of an hour of stereo, ${PEAK_LEVELS.length} levels`,
  reference: 'sox stat',
  ...(await race(
    3,
    async () => {
      const source = await FileSource.open(long);
      const pyramid = new PeakPyramid(k, (await parseAudio(source)).frames, 2, STREAM_SPAN);
      await source.close();
      await decode(long, (codec, n) => pyramid.run(codec.planar, n));
      pyramid.finish();
    },
    () => void spawnSync('sox', [long, '-n', 'stat']),
  )),
  aim: 4,
  peakMemoryMB: peakMemory(),
});
rmSync(dir, { recursive: true });
