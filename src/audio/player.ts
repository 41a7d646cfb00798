import type { Audition, Plan } from '@/core/engine';
import { lineId, type LineSheet, type SessionDoc, type Track } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { ASSETS } from './generated/assets';
import type { ToConsole, ToRoom } from '@/standins';
import type { DeviceEvents, InputDevice, OpenDevice } from './inputDevice';
import type {
  FromEngine,
  FromFeeder,
  LineSource,
  MeterFrame,
  RecordTap,
  StandbyTap,
  TestSound,
  ToEngine,
  ToFeeder,
} from './messages';
import { newRing, type RingMemory } from './ring';

/** Devices that can be on at the same time. */
const SLOTS = 4;
/** Lines of a device; browsers give an audio node at most 32 channels. */
const MOST_LINES = 32;
/** Ports of an output, for the same reason. */
const MOST_PORTS = 32;

export interface PlayerEvents {
  onMeters(frame: MeterFrame): void;
  onLoaded(serial: number, rolled: number): void;
  onStopped(rolled: number): void;
  /** Recording began or ended by hand at this frame of the roll. */
  /** `before`: frames that were kept from before it began, by track. */
  onPunched(way: 'in' | 'out', at: number, before: Record<string, number>): void;
  onTrouble(message: string): void;
}

export interface Roll {
  session: string;
  tracks: readonly Track[];
  /** Files whose channels stand in an order of their own. */
  media?: SessionDoc['media'];
  /** Sample of the timeline; before its start when a count-in asks for it. */
  position: number;
  taps?: RecordTap[];
  auditions?: Audition[];
  /** Goes round in this stretch once it is reached. */
  loop?: { start: number; end: number } | null;
  /** Goes on in silence where the server does not give the sound of the tracks: a take must not wait for it. */
  unheard?: boolean;
}

/** The audio context with the engine's worklet, the feeder and the open devices. */
export class Player {
  private rings: { track: string; ring: RingMemory }[] = [];
  private shape = '';
  private generation = 0;
  private readonly slots: ({ id: string; lines: number; open: OpenDevice } | null)[] = Array<null>(SLOTS).fill(null);
  private waiting: ((generation: number) => void) | null = null;
  private heard: ((channels: Float32Array[], at: number) => void) | null = null;
  private testing: ((id: number, at: number) => void) | null = null;
  private tests = 0;
  /** Channels of the browser's output that a room plays on; null: two ears. */
  private sounding: number | null = null;
  private captured: ((channels: Float32Array[]) => void) | null = null;

  private constructor(
    readonly context: AudioContext,
    readonly module: WebAssembly.Module,
    private readonly node: AudioWorkletNode,
    /** All that is sounded: the engine, and bursts that measure. */
    private readonly out: GainNode,
    /** What the room's loudspeakers are given, port by port. */
    private readonly ports: GainNode,
    private readonly feeder: Worker,
    events: PlayerEvents,
  ) {
    node.port.onmessage = ({ data }: MessageEvent<FromEngine>) => {
      if (data.kind === 'meters') events.onMeters(data.frame);
      else if (data.kind === 'loaded') events.onLoaded(data.serial, data.rolled);
      else if (data.kind === 'stopped') events.onStopped(data.rolled);
      else if (data.kind === 'punched') events.onPunched(data.way, data.at, data.before);
      else if (data.kind === 'testing') this.testing?.(data.id, data.at);
      else if (data.kind === 'heard') this.heard?.(data.channels, data.at);
      else this.captured?.(data.channels);
    };
    feeder.onmessage = ({ data }: MessageEvent<FromFeeder>) => {
      if (data.kind === 'ready') this.waiting?.(data.generation);
      else events.onTrouble(data.message);
    };
  }

  /** Starts sound at the session's rate; needs a click or key before. */
  static async start(
    sampleRate: number,
    events: PlayerEvents,
    latencyHint: AudioContextLatencyCategory = 'interactive',
  ): Promise<Player> {
    const context = new AudioContext({ sampleRate, latencyHint });
    const module = await WebAssembly.compileStreaming(fetch(ASSETS.kernels));
    await context.audioWorklet.addModule(ASSETS.engine);
    const node = new AudioWorkletNode(context, 'wide-room-engine', {
      numberOfInputs: SLOTS,
      numberOfOutputs: 2,
      outputChannelCount: [2, MOST_PORTS],
      channelCount: MOST_LINES,
      channelCountMode: 'explicit',
      channelInterpretation: 'discrete',
      processorOptions: { module },
    });
    const out = new GainNode(context);
    node.connect(out, 0).connect(context.destination);
    const ports = new GainNode(context, {
      ...{ channelCount: MOST_PORTS, channelCountMode: 'explicit', channelInterpretation: 'discrete' },
    });
    node.connect(ports, 1);
    const feeder = new Worker(new URL('./workers/feeder.worker.ts', import.meta.url), { type: 'module' });
    await context.resume();
    return new Player(context, module, node, out, ports, feeder, events);
  }

  private tell(message: ToEngine): void {
    this.node.port.postMessage(message);
  }

  private feed(message: ToFeeder): void {
    this.feeder.postMessage(message);
  }

  /** Takes a new plan; sound that is playing glides to it. `serial` comes back once it is at work. */
  load(plan: Plan, serial: number): void {
    this.tell({ kind: 'plan', plan, lines: this.lineSources(), serial });
  }

  /** Where the lines of the open devices arrive. */
  private lineSources(): LineSource[] {
    return this.slots.flatMap((s, slot) =>
      s ? Array.from({ length: s.lines }, (_, channel) => ({ line: lineId(s.id, channel), slot, channel })) : [],
    );
  }

  /** Makes rings for the tracks. True when others were in use before: what rolls must stop. */
  fit(tracks: readonly Track[]): boolean {
    const shape = tracks.map((t) => `${t.id}:${t.layout}`).join(' ');
    if (shape === this.shape) return false;
    const replaced = this.shape !== '';
    this.shape = shape;
    this.rings = tracks.map((t) => ({ track: t.id, ring: newRing(widthOf(t.layout)) }));
    this.tell({ kind: 'tracks', rings: this.rings });
    return replaced;
  }

  /** Fills the rings from `position` and rolls; resolves when sound runs. */
  async roll({
    session,
    tracks,
    media = {},
    position,
    taps = [],
    auditions = [],
    loop = null,
    unheard = false,
  }: Roll): Promise<void> {
    await this.context.resume();
    const generation = ++this.generation;
    const ready = new Promise<void>((resolve) => {
      this.waiting = (g) => {
        if (g === generation) resolve();
      };
    });
    const { rings } = this;
    this.feed({ kind: 'start', session, position, rings, tracks: [...tracks], media, generation, loop, unheard });
    await ready;
    if (generation === this.generation) this.tell({ kind: 'roll', from: position, loop, taps, auditions });
  }

  /** Where it stands while nothing rolls: what follows the timeline is heard as it is there. */
  place(at: number): void {
    this.tell({ kind: 'place', at });
  }

  /** Takes that begin later in this roll. */
  addTaps(taps: RecordTap[]): void {
    this.tell({ kind: 'taps', taps });
  }

  /** Recording begins now on `taps`; the exact frame comes by `onPunched`. */
  punchIn(taps: RecordTap[]): void {
    this.tell({ kind: 'punch', taps });
  }

  /** Holds back the latest sound of these tracks, for recordings that begin by hand. */
  standBy(taps: StandbyTap[]): void {
    this.tell({ kind: 'standby', taps });
  }

  punchOut(): void {
    this.tell({ kind: 'punchOut' });
  }

  /** Frame of the sound's clock that leaves the machine now, behind all buffers; null while it is not known. */
  heardFrame(): number | null {
    const { contextTime, performanceTime } = this.context.getOutputTimestamp();
    if (!contextTime || !performanceTime) return null;
    return (contextTime + (performance.now() - performanceTime) / 1000) * this.context.sampleRate;
  }

  /** Changes what is heard, and nothing that is recorded or printed, by so many dB. */
  hear(gain: number): void {
    for (const { gain: by } of [this.out, this.ports])
      by.setTargetAtTime(10 ** (gain / 20), this.context.currentTime, 0.01);
  }

  /** Clips changed while playing. */
  refresh(tracks: readonly Track[], media: SessionDoc['media']): void {
    this.feed({ kind: 'tracks', tracks: [...tracks], media });
  }

  stop(): void {
    this.generation++;
    this.feed({ kind: 'stop' });
    this.tell({ kind: 'stop' });
  }

  /** The next `frames` frames of a node as the engine makes them, from where it rolls. */
  capture(node: string, frames: number): Promise<Float32Array[]> {
    return new Promise((resolve) => {
      this.captured = resolve;
      this.tell({ kind: 'capture', node, frames });
    });
  }

  /** Hands over what arrives on a device's lines, untouched, a tenth of a second at a time. Returns what ends it. */
  listen(device: string, onHeard: (channels: Float32Array[], at: number) => void): () => void {
    const slot = this.slotOf(device);
    if (slot < 0) throw new Error('The device is off; switch it on first.');
    this.heard = onHeard;
    this.tell({ kind: 'listen', slot });
    return () => {
      this.heard = null;
      this.tell({ kind: 'listen', slot: null });
    };
  }

  /** Looks at a chain, for its drawing: what reaches a stage, and the spectrum after the chain. */
  watch(node: string | null, stage: string | null): void {
    this.tell({ kind: 'watch', node, stage });
  }

  /** Sounds mono samples beside the engine at once; returns what ends it. */
  soundOnce(samples: Float32Array<ArrayBuffer>): () => void {
    const { context } = this;
    const buffer = context.createBuffer(1, samples.length, context.sampleRate);
    buffer.copyToChannel(samples, 0);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(this.out);
    source.start();
    return () => source.stop();
  }

  /** Sounds mono samples beside the engine, `seconds` from now; returns the frame of the sound's clock they begin at. */
  sound(samples: Float32Array<ArrayBuffer>, seconds: number): number {
    const { context } = this;
    const buffer = context.createBuffer(1, samples.length, context.sampleRate);
    buffer.copyToChannel(samples, 0);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(this.out);
    const at = Math.ceil((context.currentTime + seconds) * context.sampleRate);
    source.start(at / context.sampleRate);
    return at;
  }

  /** Channels that the browser's own output has. */
  get outputChannels(): number {
    return this.context.destination.maxChannelCount;
  }

  /** What the browser's own output sounds: the loudspeakers of a room on so many channels, or two ears (null). */
  soundOn(channels: number | null): void {
    const { destination } = this.context;
    if (this.sounding === channels) return;
    (this.sounding === null ? this.out : this.ports).disconnect(destination);
    this.sounding = channels;
    destination.channelCount = channels === null ? 2 : Math.min(channels, destination.maxChannelCount);
    destination.channelInterpretation = channels === null ? 'speakers' : 'discrete';
    (channels === null ? this.out : this.ports).connect(destination);
  }

  /**
   * Sounds test signals on the room's loudspeakers, in the place of those that sound (null: silence). Resolves with the
   * frame of the sound's clock of the first sample; never where there is no room to sound in.
   */
  test(sound: TestSound | null): Promise<number> {
    const id = ++this.tests;
    this.tell({ kind: 'test', sound, id });
    return new Promise((resolve) => {
      if (!sound) return;
      this.testing = (of, at) => {
        if (of === id) resolve(at);
      };
    });
  }

  /** Sets the room of an open stand-in. */
  tellRoom(device: string, message: ToRoom): void {
    this.slots[this.slotOf(device)]?.open.tellRoom?.(message);
  }

  /** Sets a line of an open device that can be set. */
  setLine(device: string, channel: number, sheet: LineSheet): void {
    this.slots[this.slotOf(device)]?.open.set?.(channel, sheet);
  }

  /** Sets an open simulated console and its network. */
  tellConsole(device: string, message: ToConsole): void {
    this.slots[this.slotOf(device)]?.open.tellConsole?.(message);
  }

  /** Takes a simulated device away while it is on. */
  unplug(device: string): void {
    this.slots[this.slotOf(device)]?.open.unplug?.();
  }

  slotOf(device: string): number {
    return this.slots.findIndex((s) => s?.id === device);
  }

  /** Switches a device on. Throws when all inputs are in use or the device refuses. */
  async open(device: InputDevice, events: DeviceEvents): Promise<OpenDevice> {
    const there = this.slots.find((s) => s?.id === device.facts.id);
    if (there) return there.open;
    const slot = this.slots.indexOf(null);
    if (slot < 0) throw new Error(`${SLOTS} devices are on already; switch one off first.`);
    const open = await device.open(this.context, this.module, events);
    open.node.connect(this.node, 0, slot);
    if (open.hears) this.out.connect(open.hears);
    if (open.ports) this.ports.connect(open.ports);
    this.slots[slot] = { id: device.facts.id, lines: device.facts.lines.length, open };
    return open;
  }

  close(device: string): void {
    const slot = this.slotOf(device);
    if (slot < 0) return;
    const { open } = this.slots[slot]!;
    if (open.hears) this.out.disconnect(open.hears);
    if (open.ports) this.ports.disconnect(open.ports);
    open.node.disconnect();
    open.close();
    this.slots[slot] = null;
  }

  /** Ends all sound, the open devices with it. */
  end(): void {
    this.stop();
    for (const s of this.slots) if (s) this.close(s.id);
    this.feeder.terminate();
    void this.context.close();
  }

  /** What the browser buffers of the sound that is made, seconds; 0 where it does not say. */
  get buffered(): number {
    return this.context.baseLatency || 0;
  }

  /** Level of delay the browser adds after the engine, seconds. */
  get outputDelay(): number {
    return this.context.outputLatency || this.context.baseLatency || 0;
  }
}
