export { compilePlan } from './compile';
export { chainDelay } from './compensate';
export type { CompileOptions } from './context';
export type { HeardAs } from './listening';
export type { FourWay } from './encodings';
