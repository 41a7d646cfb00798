export * from './timeline';
export * from './otio';
export * from './edl';
export * from './subtitles';
export * from './cueList';
export * from './lineSheet';
export * from './cueTimes';
export * from './sessionTimeline';
