import type { Layout } from '@/core/speakers';
import { type Complex, type ComplexGains, im, re } from './complexMatrix';

const HALF_POWER = Math.SQRT1_2;

/**
 * Any layout to Lt Rt, two channels from which the surround can be taken out again: Lt = L + 0.7071 C -
 * j 0.7071 S, Rt = R + 0.7071 C + j 0.7071 S, S the sum of all surrounds (ATSC A/52, Lt/Rt downmix, the
 * surrounds turned by 90 degrees; from memory). The LFE is left out.
 */
export function ltRtGains(layout: Layout): ComplexGains {
  return layout.speakers.map((s): Complex[] => {
    if (s.lfe) return [re(0), re(0)];
    const side = Math.abs(s.azimuth);
    if (side < 1) return [re(HALF_POWER), re(HALF_POWER)];
    if (side > 60) return [im(-HALF_POWER), im(HALF_POWER)];
    const gain = s.elevation > 15 || s.label === 'Lw' || s.label === 'Rw' ? HALF_POWER : 1;
    return s.azimuth > 0 ? [re(gain), re(0)] : [re(0), re(gain)];
  });
}
