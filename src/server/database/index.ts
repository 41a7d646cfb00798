export { db, openDatabase, closeDatabase } from './client';
export * as tables from './schema';
