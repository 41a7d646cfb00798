export * from './quietPlace';
export * from './loopCut';
