export * from './lane';
export * from './thin';
