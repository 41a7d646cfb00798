export * from './prints';
export * from './printJob';
export * from './report';
