export * from './model';
export * from './room';
export { DIRECT, FIRST_SOURCE, sourceLines, type ToConsole } from './console';
export type { ClockSource, NetworkStatus } from './network';
