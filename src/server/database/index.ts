export { db, openDatabase, closeDatabase, databaseClient } from './client';
export { lockFolder } from './lock';
export * as tables from './schema';
