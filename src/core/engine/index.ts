export * from './plan';
export * from './compile';
export { sourceGains } from './gainsBetween';
export * from './engine';
export * from './redo';
export * from './clipSpans';
export * from './audition';
export type { NodeRunner } from './nodeRunner';
export type { Loop } from './stretch';
