export * from './stage';
export * from './kinds';
export * from './linked';
