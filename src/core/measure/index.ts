export * from './loudness';
export * from './measure';
export * from './measureFile';
export * from './spanReader';
