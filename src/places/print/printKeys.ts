import type { Command } from '@/client';

export const printKeys = (run: () => void): Command[] => [
  { id: 'print', label: 'Print all files of the brief', keys: 'p', group: 'Print', run },
];

export const hearKeys = (run: () => void): Command[] => [
  { id: 'print-heard', label: 'Hear the print in place of the mix', keys: 'b', group: 'Print', run },
];
