export * from './check';
export * from './pathAudit';
export * from './rollCheck';
export * from './briefCheck';
export * from './lineCheck';
export * from './heardCheck';
export * from './printCheck';
export * from './places';
