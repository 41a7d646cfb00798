export * from './document';
export * from './create';
export * from './destinations';
export * from './owners';
export * from './keys';
export * from './apply';
export * from './edits';
export * from './newSession';
