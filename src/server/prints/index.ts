export * from './prints';
export * from './printJob';
