export * from './stage';
export * from './kinds';
export * from './linked';
export { LT_RT, ltRtType } from './ltRt';
export { headType } from './head';
