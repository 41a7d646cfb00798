export { CHUNK_WAY, takeChunk } from './chunk';
export * from './recordings';
export * from './recover';
export * from './redo';
export { followTakes } from './fileNotes';
