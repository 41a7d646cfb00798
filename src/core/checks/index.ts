export * from './check';
export * from './pathAudit';
export * from './rollCheck';
export * from './printCheck';
export * from './places';
