// What an AudioWorkletGlobalScope has beside JavaScript itself.
declare const sampleRate: number;
/** Frames that the sound's clock had run before this block. */
declare const currentFrame: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: unknown): void;
