import type { EditJson, Track } from '@/core/session';

/** Changes the lines of a stereo track's two channels against each other. */
export const swapCords = ({ id, inputs: [left, right] }: Track): EditJson[] => [
  { type: 'patch', track: id, channel: 0, line: null },
  { type: 'patch', track: id, channel: 1, line: left ?? null },
  { type: 'patch', track: id, channel: 0, line: right ?? null },
];
