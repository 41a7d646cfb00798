export * from './recordings';
export * from './recover';
export * from './redo';
export { followTakes } from './fileNotes';
