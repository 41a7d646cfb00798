export * from './generator';
export * from './testSignal';
export * from './pinkNoise';
