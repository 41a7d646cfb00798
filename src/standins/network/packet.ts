/** Frames a packet carries: one millisecond at 48 kHz, as AES67 (clause 7.2.1) asks every receiver to take. */
export const PACKET_FRAMES = 48;

/** A piece of the stream, planar, with its place in the row. */
export interface Packet {
  sequence: number;
  /** Sender's sample clock at the packet's end, in its own samples. */
  sent: number;
  channels: readonly Float32Array[];
}

/** A packet on its way. */
export interface Arrival {
  packet: Packet;
  /** In the receiver's samples, with fractions: network interfaces stamp more finely than blocks. */
  at: number;
}
