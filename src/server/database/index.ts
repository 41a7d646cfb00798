export { db, openDatabase, closeDatabase, databaseClient } from './client';
export { DataFolderBusy, lockFolder } from './lock';
export * as tables from './schema';
