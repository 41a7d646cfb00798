export * from './recordings';
export * from './redo';
export { followTakes } from './fileNotes';
