import pino from 'pino';

export const log = pino({ level: process.env.WIDE_ROOM_LOG ?? 'info', base: undefined });
