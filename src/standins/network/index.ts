export { Link } from './link';
export { PACKET_FRAMES, type Packet } from './packet';
export { Receiver } from './receiver';
export { DriftMeter } from './drift';
export { DEPTH, NetworkStream, type ClockSource, type NetworkStatus } from './stream';
