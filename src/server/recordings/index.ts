export * from './recordings';
