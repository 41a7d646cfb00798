export * from './raw';
