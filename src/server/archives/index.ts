export * from './in';
export * from './out';
