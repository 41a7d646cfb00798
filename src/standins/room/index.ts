export * from './model';
