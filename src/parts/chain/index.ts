export * from './chainView';
export { useKernels } from './curve';
export { ReductionHistory } from './reductionHistory';
