import { newBus, newSession, newStage, newTrack, type SessionDoc } from '../src/core/session';

export const STEMS = 8;
export const TRACKS = 32;

/**
 * 32 mono tracks, each through high-pass, two bells and compressor, placed in 5.1, to eight limited stems and a limited reference;
 * with `sends`, each track sends to one of two stereo returns, which go through a low cut into the first stem.
 */
export function mixSession(seconds: number, sends = false): SessionDoc {
  const doc = newSession('Bench', 'BN', {
    sampleRate: 48000,
    wordLength: 24,
    fileKind: 'Broadcast WAV',
    frameRate: '25',
    startTimecode: '00:00:00:00',
    layout: '5.1',
  });
  const limited = (id: string) => newStage(`${id}-limiter`, 'limiter');
  const reference = newBus('ref', 'Reference', 'RE', 'reference', -1, '5.1', 'monitor');
  reference.chain = [limited('ref')];
  doc.buses = [
    ...Array.from({ length: STEMS }, (_, i) => ({
      ...newBus(`s${i}`, `Stem ${i + 1}`, `S${i}`, 'stem', i, '5.1', 'ref'),
      chain: [limited(`s${i}`)],
    })),
    reference,
  ];
  doc.deliverables = doc.buses.map((b) => ({ id: b.id, bus: b.id, layout: '5.1', token: b.id.toUpperCase() }));
  doc.tracks = Array.from({ length: TRACKS }, (_, i) => {
    const t = newTrack(`t${i}`, `Track ${i + 1}`, 'mono', `s${i % STEMS}`);
    t.placement = { azimuth: -110 + i * 7, distance: 1, width: 60, lfe: -100 };
    const eq = newStage(`t${i}-eq`, 'eq');
    Object.assign(eq.values, { f1: 160, g1: -3, q1: 1, f2: 3000, g2: 2.5, q2: 0.9 });
    t.chain = [newStage(`t${i}-cut`, 'lowCut'), eq, newStage(`t${i}-comp`, 'compressor', true)];
    t.level = -6;
    t.clips = [{ id: `c${i}`, media: `m${i}`, start: 0, offset: 0, length: seconds * 48000, gain: 0, name: t.name }];
    doc.media[`m${i}`] = {
      id: `m${i}`,
      name: `m${i}.wav`,
      channels: 1,
      frames: seconds * 48000,
      sampleRate: 48000,
      kind: 'file',
    };
    return t;
  });
  if (sends) {
    for (const i of [0, 1]) {
      const back = newBus(`r${i}`, `Return ${i + 1}`, `R${i}`, 'return', -1, 'stereo', 's0');
      doc.buses.unshift({ ...back, chain: [newStage(`r${i}-cut`, 'lowCut')] });
    }
    doc.tracks.forEach((t, i) => {
      t.sends = [{ id: `${t.id}-send`, to: `r${i % 2}`, level: -9, tap: 'after', on: true, placement: null }];
    });
  }
  doc.range = { start: 0, end: seconds * 48000 };
  return doc;
}
