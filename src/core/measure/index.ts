export * from './levels';
export * from './lineListener';
export * from './loudness';
export * from './measure';
export * from './measureFile';
export * from './spectrum';
export * from './speech';
export * from './alignment';
