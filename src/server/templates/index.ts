export * from './templates';
export * from './templateArchive';
