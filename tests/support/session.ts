import { applyEdit, newSession, readEdit, type EditJson, type MediaRef, type SessionDoc } from '@/core/session';

export const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
} as const;

/** The session after some edits. */
export const applied = (doc: SessionDoc, ...edits: EditJson[]): SessionDoc =>
  edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);

/** A new session in 5.1 at 48 kHz after some edits. */
export const sessionWith = (...edits: EditJson[]): SessionDoc =>
  applied(newSession('Test', 'TS', { ...FORMAT }), ...edits);

/** Facts of a mono file. */
export const mono = (id: string, frames: number, kind: MediaRef['kind'] = 'file'): MediaRef => ({
  id,
  name: `${id}.wav`,
  channels: 1,
  frames,
  sampleRate: 48000,
  kind,
});

/** A mono track. */
export const monoTrack = (id: string, name = id): EditJson => ({
  type: 'addTrack',
  id,
  name,
  layout: 'mono',
  destination: 'dia',
});

/** A take of `frames` frames that begins at `start`. */
export const take = (id: string, track: string, start: number, frames: number): EditJson => ({
  type: 'addTake',
  id,
  track,
  start,
  media: { ...mono(`${id}-m`, frames, 'take'), name: `TS_${track}_T${id.replace(/\D/g, '').padStart(2, '0')}.wav` },
  dry: null,
  chains: [[]],
  recordedAt: '2026-03-02T09:00:00Z',
  recovered: false,
});
