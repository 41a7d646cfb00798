/** Length of the joint (s). */
export const JOINT_SECONDS = 0.06;

/**
 * Cuts exactly `length` samples from `start` so that they can be looped: towards the end, what stands before `start`
 * is faded in under what fades out, with equal power since the two are not correlated; after the last sample the first
 * one follows as it did in the recording. Throws RangeError when there is not enough before or after `start`.
 */
export function loopCut(
  channels: readonly Float32Array[],
  sampleRate: number,
  start: number,
  length: number,
): Float32Array[] {
  const joint = Math.min(Math.round(JOINT_SECONDS * sampleRate), Math.floor(length / 2));
  const frames = channels[0]?.length ?? 0;
  if (start < joint || start + length > frames)
    throw new RangeError(
      `a loop of ${length} samples from ${start} needs ${joint} before it, in a recording of ${frames}`,
    );
  return channels.map((x) => {
    const out = x.slice(start, start + length);
    for (let i = 0; i < joint; i++) {
      const at = length - joint + i;
      // The last sample is wholly the one before `start`.
      const share = (i + 1) / joint;
      out[at] = out[at]! * Math.cos((share * Math.PI) / 2) + x[start - joint + i]! * Math.sin((share * Math.PI) / 2);
    }
    return out;
  });
}
