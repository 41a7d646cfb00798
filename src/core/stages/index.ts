export * from './stage';
export * from './kinds';
