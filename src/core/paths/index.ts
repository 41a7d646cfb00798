export * from './audible';
export * from './order';
