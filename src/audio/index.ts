export * from './player';
export * from './messages';
export * from './ring';
export type { ProbeReading } from './worklets/probe';
export * from './inputDevice';
export { ASSETS } from './generated/assets';
export * from './browserInputs';
export * from './standinDevices';
export * from './recorder';
