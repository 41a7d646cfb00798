export * from './store';
export * from './versions';
export * from './desk';
export * from './events';
export * from './historyList';
export * from './people';
export * from './seats';
export { forgetSteps, KEPT_STEPS } from './steps';
export { followOthers, onOthers, tellOthers } from './others';
