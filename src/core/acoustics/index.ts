export * from './soundLevel';
export * from './weighting';
export * from './soundLevelMeter';
export * from './head';
