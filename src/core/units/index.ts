export * from './decibels';
export * from './frameRates';
export * from './timecode';
export * from './parse';
export * from './tempo';
export * from './figures';
