export * from './rooms';
export * from './layouts';
