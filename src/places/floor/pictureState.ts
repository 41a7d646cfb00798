import { create } from 'zustand';

/** Length of the picture, known once the browser has read its file (s). */
export const usePicture = create<{ seconds: number }>(() => ({ seconds: 0 }));
