export * from './midi';
