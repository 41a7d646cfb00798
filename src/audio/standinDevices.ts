import type { LineSheet } from '@/core/session';
import { STANDINS, type StandinDevice } from '@/standins';
import { ASSETS } from './generated/assets';
import type { InputDevice, OpenDevice } from './inputDevice';

async function soundOf(context: AudioContext, file: string | null): Promise<Float32Array | null> {
  if (!file) return null;
  const response = await fetch(`/standins/${file}`);
  if (!response.ok) throw new Error(`The sound of the stand-in (${file}) is missing; run the set-up again.`);
  const decoded = await context.decodeAudioData(await response.arrayBuffer());
  return decoded.getChannelData(0).slice();
}

async function open(
  device: StandinDevice,
  context: AudioContext,
  module: WebAssembly.Module,
  onGone: () => void,
): Promise<OpenDevice> {
  await context.audioWorklet.addModule(ASSETS.standin);
  const channels = device.lines.length;
  const node = new AudioWorkletNode(context, 'wide-room-standin', {
    numberOfInputs: 0,
    numberOfOutputs: 1,
    outputChannelCount: [channels],
    processorOptions: { module },
  });
  const lines = await Promise.all(device.lines.map(async (l) => ({ ...l, samples: await soundOf(context, l.sound) })));
  node.port.postMessage({ lines });
  return {
    node,
    channels,
    sampleRate: context.sampleRate,
    ...(device.settable
      ? { set: (channel: number, sheet: LineSheet) => node.port.postMessage({ channel, sheet }) }
      : {}),
    unplug: () => {
      node.disconnect();
      onGone();
    },
    close: () => node.disconnect(),
  };
}

export const standinDevices = (): InputDevice[] =>
  STANDINS.map((s) => ({
    facts: {
      id: s.id,
      name: s.name,
      kind: 'stand-in',
      lines: s.lines.map((l) => l.name),
      sheets: s.lines.map((l) => l.sheet),
      settable: s.settable,
      systemDefault: false,
      unavailable: null,
    },
    open: (context, module, onGone) => open(s, context, module, onGone),
  }));
