export { compilePlan } from './compile';
export { chainDelay } from './compensate';
export type { CompileOptions } from './context';
