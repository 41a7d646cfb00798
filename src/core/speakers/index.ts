export * from './layouts';
export * from './foldDown';
export * from './panning';
export * from './weights';
