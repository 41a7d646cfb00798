export * from './audible';
export * from './follow';
export * from './links';
export * from './order';
export * from './pathDoc';
