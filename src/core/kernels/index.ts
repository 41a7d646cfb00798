export { Kernels, type KernelExports } from './kernels';
export { ChannelSet } from './channelSet';
