import type { Param } from '@/core/session';

/** What a field needs to know of a value, from its description. */
export const fieldOf = ({ unit, min, max, step, digits, default: reset, log }: Param) => ({
  unit,
  min,
  max,
  step,
  digits,
  reset,
  ...(log ? { log } : {}),
});
