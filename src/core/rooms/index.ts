export * from './room';
export * from './readRoom';
export * from './roomFaults';
export * from './arrival';
export * from './direction';
export * from './calibrate';
export * from './sheet';
