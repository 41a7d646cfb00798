export * from './fileSource';
export * from './wavReader';
export * from './peaks';
export * from './store';
export * from './blocks';
