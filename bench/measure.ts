// Loudness, true peak and range of ten minutes of stereo, file to figures: speech and full-level noise against
// ffmpeg's ebur128, speech against libebur128.
import { spawnSync } from 'node:child_process';
import { measureFile } from '../src/core/measure';
import { newKernels } from '../src/server/kernels';
import { FileSource } from '../src/server/media/fileSource';
import { libebur128 } from '../tests/reference/libebur128';
import { fullNoise, programme, rawFloats } from './media';
import { peakMemory, race, report } from './timing';

const k = newKernels();

async function against(
  name: string,
  file: string,
  reference: string,
  aim: number,
  theirs: () => string,
): Promise<void> {
  let [figures, referenceFigures] = ['', ''];
  const ours = async () => {
    const source = await FileSource.open(file);
    const f = await measureFile(k, source);
    await source.close();
    figures = `${f.integrated.toFixed(1)} LUFS ${f.range.toFixed(1)} LU ${f.truePeak.toFixed(1)} dBTP`;
  };
  const result = await race(5, ours, () => void (referenceFigures = theirs()));
  report({
    case: `loudness, true peak, range: ${name}`,
    reference,
    ...result,
    aim,
    figures,
    referenceFigures,
    peakMemoryMB: peakMemory(),
  });
}

function ffmpeg(file: string): string {
  const args = [
    '-hide_banner',
    '-nostats',
    '-threads',
    '1',
    '-i',
    file,
    '-af',
    'ebur128=peak=true:framelog=verbose',
    '-f',
    'null',
    '-',
  ];
  const text = spawnSync('ffmpeg', args, { encoding: 'utf8' }).stderr;
  const read = (field: RegExp) => field.exec(text.split('Summary:')[1] ?? '')?.[1];
  return `${read(/I:\s+(\S+)/)} LUFS ${read(/LRA:\s+(\S+)/)} LU ${read(/Peak:\s+(\S+)/)} dBTP`;
}

const speech = programme();
const raw = rawFloats(speech);
await against('10 min of speech in stereo', speech, 'ffmpeg ebur128=peak=true', 10, () => ffmpeg(speech));
await against('10 min of full-level noise in stereo', fullNoise(), 'ffmpeg ebur128=peak=true', 6, () =>
  ffmpeg(fullNoise()),
);
await against('10 min of speech in stereo', speech, 'libebur128, I + LRA + true peak, from raw floats', 15, () => {
  const r = libebur128(raw, 2, 48_000);
  return `${r.integrated.toFixed(1)} LUFS ${r.range.toFixed(1)} LU ${(20 * Math.log10(r.truePeak)).toFixed(1)} dBTP`;
});
