export * from './recordings';
export * from './redo';
