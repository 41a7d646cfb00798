export * from './names';
export * from './files';
export * from './run';
export * from './proof';
export * from './sumCheck';
export * from './verdict';
export type { MediaReader } from './spanFeed';
export * from './parts';
export * from './exchange';
