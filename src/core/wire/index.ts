// What a window may ask of the server, as classes whose rules are checked before anything is done with it; and what it tells.
export * from './facts';
export * from './media';
export * from './people';
export * from './recordings';
export * from './rooms';
export * from './sessions';
