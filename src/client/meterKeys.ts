// How the levels that are measured while sound runs are named; channels count from 0.

/** Before the level of a track, bus or line: what arrives there. */
export const arrivingKey = (node: string, channel: number): string => `in/${node}/${channel}`;

/** Behind the level of a track, bus or line: what leaves it. */
export const leavingKey = (node: string, channel: number): string => `out/${node}/${channel}`;

/** At a channel of the device in this slot of the engine. */
export const deviceKey = (slot: number, channel: number): string => `device/${slot}/${channel}`;

/** Whether a key is one of the device in this slot. */
export const isDeviceKey = (slot: number, key: string): boolean => key.startsWith(`device/${slot}/`);
