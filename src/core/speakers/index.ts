export * from './layouts';
export * from './foldDown';
export * from './panning';
export * from './weights';
export * from './triangles';
export * from './orders';
export * from './masks';
