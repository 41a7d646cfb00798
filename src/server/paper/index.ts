export * from './fonts';
export * from './words';
export * from './tablePdf';
