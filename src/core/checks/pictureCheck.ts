import type { SessionDoc } from '@/core/session';
import { FRAME_RATES, frameRate } from '@/core/units';
import type { Check } from './check';

/** Rates whose ratio differs less are one: files tell averages (23.976 and 24 differ by a thousandth). */
const SAME = 2e-4;

/** A picture that runs at another frame rate than the session counts. */
export function pictureCheck({ picture, format }: SessionDoc): Check[] {
  const [num, den] = (picture?.rate ?? '').split('/').map(Number);
  if (!num || !den) return [];
  const now = frameRate(format.frameRate);
  const isIt = (r: { num: number; den: number }) => Math.abs((num / den) * (r.den / r.num) - 1) < SAME;
  if (isIt(now)) return [];
  const other = FRAME_RATES.find(isIt);
  return [
    {
      id: 'picture-rate',
      grade: 'warn',
      place: 'brief',
      about: [],
      title: `The picture runs at ${other ? other.label : `${(num / den).toFixed(3)} fps`}, the session counts ${now.label}`,
      why: 'Timecode in the picture and in the session drift apart, and steps by frames do not meet the frames that are seen.',
      mends: other ? [{ label: `Count ${other.label}`, edits: [{ type: 'setFormat', frameRate: other.id }] }] : [],
    },
  ];
}
