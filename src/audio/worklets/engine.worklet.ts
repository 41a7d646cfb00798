import { Engine, type Plan } from '@/core/engine';
import { Kernels } from '@/core/kernels';
import { Measure } from '@/core/measure';
import type { FromEngine, LineSource, RecordTap, ToEngine } from '../messages';
import { Auditions } from './auditions';
import { Ear } from './ear';
import { LineInputs } from './lineInputs';
import { Probe } from './probe';
import { RecordTaps } from './recordTaps';
import { TrackRings } from './trackRings';

/** Largest block a browser hands over. */
const MOST_FRAMES = 1024;
const METER_SECONDS = 1 / 30;

/** The one engine, fed from rings and live lines; its ears are the output. */
class EngineProcessor extends AudioWorkletProcessor {
  private readonly k: Kernels;
  private readonly engine: Engine;
  private readonly inputs: LineInputs;
  private taps: RecordTaps | null = null;
  private auditions: Auditions | null = null;
  private readonly rings: TrackRings;
  private measure: Measure | null = null;
  private reference = '';
  private sentHops = 0;
  private rolling = false;
  private rolled = 0;
  private misses = 0;
  private sinceMeters = 0;
  private earTo: Ear | null = null;
  private probe: Probe | null = null;
  private capture: { node: string; left: number; parts: Float32Array[][] } | null = null;

  constructor(options: { processorOptions: { module: WebAssembly.Module } }) {
    super();
    this.k = new Kernels(options.processorOptions.module);
    this.engine = new Engine(this.k, MOST_FRAMES, { meters: true });
    this.inputs = new LineInputs(this.k, MOST_FRAMES);
    this.rings = new TrackRings(this.k);
    this.port.onmessage = (event: MessageEvent<ToEngine>) => this.take(event.data);
  }

  private take(message: ToEngine): void {
    if (message.kind === 'plan') this.load(message.plan, message.lines);
    else if (message.kind === 'tracks') this.rings.set(message.rings);
    else if (message.kind === 'roll') {
      this.auditions = new Auditions(this.k, message.auditions, sampleRate);
      this.roll(new RecordTaps(this.k, message.taps, MOST_FRAMES));
    } else if (message.kind === 'taps') this.taps?.add(message.taps);
    else if (message.kind === 'punch') this.punchIn(message.taps);
    else if (message.kind === 'punchOut') this.punchOut();
    else if (message.kind === 'standby') this.taps?.standBy(message.taps);
    else if (message.kind === 'capture') this.capture = { node: message.node, left: message.frames, parts: [] };
    else if (message.kind === 'listen') this.earTo = message.slot === null ? null : new Ear(message.slot);
    else if (message.kind === 'watch') this.watch(message.node, message.stage);
    else this.stop();
  }

  // Exact by construction: the frame is told once recording has begun there.
  private punchIn(taps: RecordTap[]): void {
    if (!this.rolling || !this.taps) return;
    const before = this.taps.punch(taps, this.rolled);
    this.send({ kind: 'punched', way: 'in', at: this.rolled, before });
  }

  private punchOut(): void {
    this.taps?.end(this.rolled);
    this.send({ kind: 'punched', way: 'out', at: this.rolled, before: {} });
  }

  private watch(node: string | null, stage: string | null): void {
    this.probe?.free(this.engine);
    this.probe = node === null ? null : new Probe(this.k, sampleRate, node, stage, MOST_FRAMES);
  }

  private load(plan: Plan, lines: LineSource[]): void {
    this.engine.load(plan);
    this.inputs.lines = lines;
    const measured = plan.nodes.find((n) => n.weights);
    if (measured && (measured.id !== this.reference || !this.measure)) {
      this.measure?.free();
      this.measure = new Measure(this.k, plan.sampleRate, measured.weights!, MOST_FRAMES, { silence: false });
      this.reference = measured.id;
      this.sentHops = 0;
    }
  }

  private roll(taps: RecordTaps): void {
    this.engine.restart();
    this.measure?.reset();
    this.sentHops = 0;
    this.rolled = 0;
    this.misses = 0;
    this.rings.restart();
    this.taps = taps;
    this.rolling = true;
  }

  private stop(): void {
    if (this.rolling) this.send({ kind: 'stopped', rolled: this.rolled });
    this.rolling = false;
    this.taps?.free();
    this.taps = null;
  }

  private send(message: FromEngine): void {
    this.port.postMessage(message);
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const out = outputs[0]!;
    const n = out[0]!.length;
    this.inputs.look(inputs, n);
    const heard = this.earTo?.run(inputs);
    if (heard)
      this.send({ kind: 'heard', slot: this.earTo!.slot, channels: heard, at: currentFrame + n - heard[0]!.length });
    const recording = this.taps?.records(this.rolled, n) ?? false;
    // Late samples are waited for, unless a performer is being recorded: that never waits.
    if (this.rolling && !recording && !this.rings.ready(n)) {
      this.misses++;
      return true;
    }
    this.engine.begin(n);
    this.inputs.feed(this.engine, inputs, n);
    if (this.rolling) {
      this.misses += this.rings.feed(this.engine, n);
      this.auditions?.run(this.engine, this.rolled, n);
    }
    this.probe?.aim(this.engine);
    this.engine.run(n);
    this.probe?.look(this.engine, n);
    if (this.rolling) {
      this.taps?.write(this.engine, this.inputs, this.rolled, n);
      this.follow(n);
      this.rolled += n;
    }
    if (this.engine.has('ears')) {
      const ears = this.engine.node('ears').buffer;
      for (let c = 0; c < out.length; c++) out[c]!.set(ears.view(Math.min(c, ears.channels - 1), n));
    }
    this.sinceMeters += n;
    if (this.sinceMeters >= sampleRate * METER_SECONDS) this.sendMeters(currentFrame + n);
    return true;
  }

  private follow(n: number): void {
    if (this.measure && this.engine.has(this.reference))
      this.measure.run(this.engine.node(this.reference).buffer.table, n);
    const capture = this.capture;
    if (!capture || !this.engine.has(capture.node)) return;
    const { buffer } = this.engine.node(capture.node);
    const part = Math.min(n, capture.left);
    capture.parts.push(Array.from({ length: buffer.channels }, (_, c) => buffer.view(c, part).slice()));
    capture.left -= part;
    if (capture.left > 0) return;
    const channels = capture.parts[0]!.map((_, c) => {
      const whole = new Float32Array(capture.parts.reduce((sum, p) => sum + p[c]!.length, 0));
      let at = 0;
      for (const p of capture.parts) {
        whole.set(p[c]!, at);
        at += p[c]!.length;
      }
      return whole;
    });
    this.capture = null;
    this.send({ kind: 'captured', channels });
  }

  private sendMeters(at: number): void {
    this.sinceMeters = 0;
    const peaks: Record<string, { before: number[]; after: number[] }> = {};
    const reductions: Record<string, number> = {};
    for (const node of this.engine.all) {
      peaks[node.plan.id] = { before: Array.from(node.peaksIn), after: Array.from(node.peaksOut) };
      node.peaksIn.fill(0);
      node.peaksOut.fill(0);
      Object.assign(reductions, node.chain.reductions());
    }
    const stretches = this.measure?.stretches ?? new Float64Array(0);
    const hops = Array.from(stretches.subarray(this.sentHops));
    this.sentHops = stretches.length;
    this.send({
      kind: 'meters',
      frame: {
        rolled: this.rolling ? this.rolled : -1,
        at,
        misses: this.misses,
        peaks,
        reductions,
        hops,
        inputs: this.inputs.takePeaks(),
        truePeak: this.measure?.truePeakLinear ?? 0,
        ...(this.probe ? { probe: this.probe.take(this.engine) } : {}),
      },
    });
  }
}

registerProcessor('wide-room-engine', EngineProcessor);
