export * from './store';
export * from './events';
