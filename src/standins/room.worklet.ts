import { AS_BUILT, faulty, RoomSound, type ToRoom } from './room';

/** The simulated room: twelve ports in, what the measuring microphone hears out. */
class RoomProcessor extends AudioWorkletProcessor {
  private readonly sound = new RoomSound(sampleRate);
  /** Switched off. */
  private over = false;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToRoom | 'end'>) => {
      if (data === 'end') this.over = true;
      else if ('mic' in data) this.sound.move(data.mic);
      else this.sound.set(data.faults ? faulty(AS_BUILT, data.faults) : AS_BUILT);
    };
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const out = outputs[0]![0]!;
    this.sound.run(inputs[0] ?? [], out, out.length);
    return !this.over;
  }
}

registerProcessor('wide-room-simulated-room', RoomProcessor);
