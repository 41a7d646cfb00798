export * from './chainView';
export { useKernels } from './curve';
