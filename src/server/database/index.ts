export { db, openDatabase, closeDatabase } from './client';
export { lockFolder } from './lock';
export * as tables from './schema';
