export { Kernels } from './kernels';
export * from './exports';
export { ChannelSet } from './channelSet';
