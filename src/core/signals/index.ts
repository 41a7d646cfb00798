export * from './generator';
export * from './clickSounds';
export * from './testSignal';
export * from './pinkNoise';
