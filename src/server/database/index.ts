export { beforeClosing, db, openDatabase, closeDatabase, databaseClient } from './client';
export { DataFolderBusy, lockFolder } from './lock';
export { alone, databaseUrl, listenToAll, lockedAmongAll, notifyAll } from './postgres';
export * as tables from './schema';
export { countChange } from './tidy';
