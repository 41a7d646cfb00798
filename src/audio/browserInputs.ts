import type { InputDevice, OpenDevice } from './inputDevice';

/** Browsers give two channels per input at most. */
const MOST_CHANNELS = 2;

async function open(deviceId: string, context: AudioContext): Promise<OpenDevice> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: {
      deviceId: { exact: deviceId },
      channelCount: { ideal: MOST_CHANNELS },
      echoCancellation: false,
      noiseSuppression: false,
      autoGainControl: false,
    },
  });
  const track = stream.getAudioTracks()[0]!;
  const settings = track.getSettings();
  const node = context.createMediaStreamSource(stream);
  return {
    node,
    channels: settings.channelCount ?? MOST_CHANNELS,
    sampleRate: settings.sampleRate ?? null,
    close: () => {
      node.disconnect();
      stream.getTracks().forEach((t) => t.stop());
    },
  };
}

/** The browser's inputs; their names appear once the user has allowed the microphone. */
export async function browserInputs(): Promise<InputDevice[]> {
  const list = (await navigator.mediaDevices?.enumerateDevices?.()) ?? [];
  return list
    .filter((d) => d.kind === 'audioinput')
    .map((d, i) => ({
      facts: {
        id: `browser-${(d.deviceId || String(i)).replace(/[^\w-]/g, '').slice(0, 40)}`,
        name: d.label || `Input ${i + 1} of this computer`,
        kind: 'browser' as const,
        lines: ['left', 'right'].map((side) => `${d.label || `Input ${i + 1}`} ${side}`),
        sheets: [],
        settable: false,
        unavailable: d.deviceId ? null : 'The browser has not been allowed to use the microphone yet.',
      },
      open: (context) => open(d.deviceId, context),
    }));
}
