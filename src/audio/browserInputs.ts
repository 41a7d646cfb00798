import type { InputDevice, OpenDevice } from './inputDevice';

/** Browsers give two channels per input at most. */
const MOST_CHANNELS = 2;

/** What the browser's refusals mean, and what to do. */
const REFUSALS: Record<string, string> = {
  NotReadableError: 'another program or window uses it. Close it there, then switch it on again.',
  NotAllowedError: 'the browser has not been allowed to use the microphone. Allow it in the address bar.',
  NotFoundError: 'it is not there any more. Plug it in again.',
  OverconstrainedError: 'it is not there any more. Plug it in again.',
};

async function streamOf(constraints: MediaStreamConstraints): Promise<MediaStream> {
  try {
    return await navigator.mediaDevices.getUserMedia(constraints);
  } catch (error) {
    const { name, message } = error as DOMException;
    throw new Error(REFUSALS[name] ?? message, { cause: error });
  }
}

async function open(deviceId: string, context: AudioContext, onGone: () => void): Promise<OpenDevice> {
  const stream = await streamOf({
    audio: {
      deviceId: { exact: deviceId },
      channelCount: { ideal: MOST_CHANNELS },
      echoCancellation: false,
      noiseSuppression: false,
      autoGainControl: false,
    },
  });
  const track = stream.getAudioTracks()[0]!;
  track.addEventListener('ended', onGone, { once: true });
  const settings = track.getSettings();
  const node = context.createMediaStreamSource(stream);
  return {
    node,
    channels: settings.channelCount ?? MOST_CHANNELS,
    sampleRate: settings.sampleRate ?? null,
    close: () => {
      track.removeEventListener('ended', onGone);
      node.disconnect();
      stream.getTracks().forEach((t) => t.stop());
    },
  };
}

const ALIASES = ['default', 'communications'];

/** The browser's inputs; their names appear once the user has allowed the microphone. */
export async function browserInputs(): Promise<InputDevice[]> {
  const list = (await navigator.mediaDevices?.enumerateDevices?.()) ?? [];
  const inputs = list.filter((d) => d.kind === 'audioinput');
  // Beside the devices themselves stand aliases for the ones that the system takes by itself.
  const usual = inputs.find((d) => d.deviceId === 'default');
  const real = inputs.filter((d) => !ALIASES.includes(d.deviceId));
  const shown = real.length > 0 ? real : inputs;
  return shown.map((d, i) => ({
    facts: {
      id: `browser-${(d.deviceId || String(i)).replace(/[^\w-]/g, '').slice(0, 40)}`,
      name: d.label || `Input ${i + 1} of this computer`,
      kind: 'browser' as const,
      lines: ['left', 'right'].map((side) => `${d.label || `Input ${i + 1}`} ${side}`),
      sheets: [],
      settable: false,
      networked: false,
      ports: 0,
      systemDefault: usual !== undefined && (d === usual || (d.groupId !== '' && d.groupId === usual.groupId)),
      unavailable: d.deviceId ? null : 'The browser has not been allowed to use the microphone yet.',
    },
    open: (context, _module, { gone }) => open(d.deviceId, context, gone),
  }));
}
