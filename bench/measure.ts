// Loudness, true peak and range of ten minutes of stereo, file to figures, against ffmpeg's ebur128.
import { spawnSync } from 'node:child_process';
import { measureFile } from '../src/core/measure';
import { newKernels } from '../src/server/kernels';
import { FileSource } from '../src/server/media/fileSource';
import { programme } from './media';
import { peakMemory, race } from './timing';

const file = programme();
const k = newKernels();
let figures = '';

async function ours(): Promise<void> {
  const source = await FileSource.open(file);
  const f = await measureFile(k, source);
  await source.close();
  figures = `${f.integrated.toFixed(1)} LUFS ${f.range.toFixed(1)} LU ${f.truePeak.toFixed(1)} dBTP`;
}

let reference = '';
function theirs(): void {
  const text = spawnSync(
    'ffmpeg',
    [
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
    ],
    { encoding: 'utf8' },
  ).stderr;
  const read = (name: RegExp) => name.exec(text.split('Summary:')[1] ?? '')?.[1];
  reference = `${read(/I:\s+(\S+)/)} LUFS ${read(/LRA:\s+(\S+)/)} LU ${read(/Peak:\s+(\S+)/)} dBTP`;
}

const result = await race(5, ours, theirs);
console.log(
  JSON.stringify({
    case: 'measure 10 min stereo: loudness, true peak, range',
    reference: 'ffmpeg ebur128=peak=true',
    ...result,
    aim: 6,
    figures,
    referenceFigures: reference,
    peakMemoryMB: peakMemory(),
  }),
);
