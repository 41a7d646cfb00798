export * from './chart';
export * from './facts';
export * from './folds';
export * from './html';
export * from './text';
export * from './soundChart';
