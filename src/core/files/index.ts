export * from './byteSource';
export * from './sampleFormat';
export * from './bext';
export * from './ixml';
export * from './wavHeader';
export * from './wavParse';
export * from './decodeFrames';
export * from './resample';
