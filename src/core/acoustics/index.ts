export * from './soundLevel';
export * from './weighting';
