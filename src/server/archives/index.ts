export * from './in';
export { sessionArchive, sessionArchiveFacts } from './out';
export * from './duplicate';
export * from './unpack';
export * from './unused';
