import { SPEED_OF_SOUND } from './soundLevel';

/**
 * A head as a rigid sphere, two ears at its sides. Delay: Woodworth and Schlosberg, "Experimental Psychology", 1954 (the
 * way around the sphere, from memory). Shading: the one-pole, one-zero filter of Brown and Duda, "A structural model for
 * binaural sound synthesis", IEEE Trans. Speech Audio Proc. 6(5), 1998 (values from memory).
 */
export const HEAD_RADIUS = 0.0875;

const RAD = Math.PI / 180;
/** Brown and Duda: least of alpha, and the angle at which it is reached. */
const ALPHA_MIN = 0.1;
const THETA_MIN = 150;

/** Angle in degrees between a direction and the axis of an ear (left: 90°). */
export function incidence(azimuth: number, elevation: number, ear: 'left' | 'right'): number {
  const side = ear === 'left' ? 1 : -1;
  return Math.acos(side * Math.cos(elevation * RAD) * Math.sin(azimuth * RAD)) / RAD;
}

/** Seconds by which sound from an angle of incidence (degrees) comes to an ear later (negative: sooner) than to the middle of the head. */
export function earDelay(theta: number): number {
  const a = HEAD_RADIUS / SPEED_OF_SOUND;
  const t = theta * RAD;
  return theta <= 90 ? -a * Math.cos(t) : a * (t - Math.PI / 2);
}

/** Brown and Duda's alpha: gain at high frequencies of an ear, by the angle of incidence in degrees. */
export const earAlpha = (theta: number): number =>
  1 + ALPHA_MIN / 2 + (1 - ALPHA_MIN / 2) * Math.cos((theta / THETA_MIN) * Math.PI);

/** Corner of the shading in Hz: c / (2 pi a). */
export const HEAD_CORNER = SPEED_OF_SOUND / (2 * Math.PI * HEAD_RADIUS);
