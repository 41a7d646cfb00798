// How a line is named by its device and its place there. Nobody else takes these names apart.

/** The id of a device's line; `channel` counts from 0, the number in the id from 1 as on the device. */
export const lineId = (device: string, channel: number): string => `${device}/${channel + 1}`;

/** The device of a line. */
export const deviceOfLine = (id: string): string => id.slice(0, id.lastIndexOf('/'));

/** The number of a line as it stands on its device, from 1. */
export const numberOfLine = (id: string): number => Number(id.slice(id.lastIndexOf('/') + 1));

/** The channel of a line on its device, from 0. */
export const channelOfLine = (id: string): number => numberOfLine(id) - 1;

/** Whether something is patched, and it is a line of this device. */
export const isLineOf = (device: string, id: string | null | undefined): id is string =>
  typeof id === 'string' && deviceOfLine(id) === device;
