export * from './laneState';
export { LaneView } from './laneView';
