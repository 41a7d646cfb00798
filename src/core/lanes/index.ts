export * from './lane';
