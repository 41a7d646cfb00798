export * from './plan';
export * from './compile';
export * from './engine';
export * from './redo';
export * from './clipSpans';
export * from './audition';
