import { ChannelSet, Kernels } from '@/core/kernels';
import { consoleAsItStarts, throughConsole, type ConsoleState, type ToConsole } from './console';
import { NetworkStream, PACKET_FRAMES, type NetworkStatus } from './network';
import { Voice } from './voice';

const STATUS_SECONDS = 0.25;

/** A console on the network: its sources, faders and direct feed, sent in packets over two links. */
class ConsoleProcessor extends AudioWorkletProcessor {
  private readonly k: Kernels;
  private readonly block: ChannelSet;
  private readonly noise: number;
  private voices: Voice[] = [];
  private sources: Float32Array[] = [];
  private state: ConsoleState = consoleAsItStarts(0);
  private stream: NetworkStream | null = null;
  private since = 0;
  /** Switched off: it tells nothing more, and goes. */
  private over = false;

  constructor(options: { processorOptions: { module: WebAssembly.Module } }) {
    super();
    this.k = new Kernels(options.processorOptions.module);
    this.block = new ChannelSet(this.k, 1, PACKET_FRAMES);
    this.noise = this.k.x.alloc(16);
    this.k.u32(this.noise, 1)[0] = 0x1f123bb5;
    this.port.onmessage = ({ data }: MessageEvent<ToConsole | 'end'>) => {
      if (data === 'end') this.over = true;
      else this.take(data);
    };
  }

  private take(message: ToConsole): void {
    if ('lines' in message) {
      this.voices = message.lines.map((line) => new Voice(this.k, line, this.noise));
      this.sources = this.voices.map(() => new Float32Array(PACKET_FRAMES));
      this.state = consoleAsItStarts(this.voices.length);
      this.stream = new NetworkStream(message.channels, (out) => this.make(out), message.ppm);
    } else if ('link' in message) {
      const link = this.stream?.links[message.link];
      if (message.up) link?.mend();
      else link?.cut();
    } else if ('clock' in message) this.stream?.setClock(message.clock);
    else if ('direct' in message) this.state.direct = message.direct;
    else this.state.faders[message.fader] = message.db;
    this.tell();
  }

  private make(out: Float32Array[]): void {
    this.voices.forEach((voice, i) => {
      voice.run(this.block, PACKET_FRAMES, sampleRate);
      this.sources[i]!.set(this.block.view(0, PACKET_FRAMES));
    });
    throughConsole(this.state, this.sources, out, PACKET_FRAMES);
  }

  private tell(): void {
    if (this.stream) {
      const status: NetworkStatus = {
        ...this.stream.status(),
        direct: this.state.direct,
        faders: [...this.state.faders],
      };
      this.port.postMessage(status);
    }
    this.since = 0;
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const n = outputs[0]![0]?.length ?? 0;
    if (this.over) return false;
    this.stream?.run(outputs[0]!, n);
    this.since += n;
    if (this.since >= STATUS_SECONDS * sampleRate) this.tell();
    return true;
  }
}

registerProcessor('wide-room-console', ConsoleProcessor);
