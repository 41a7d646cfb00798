import { Engine, PORTS, type Loop, type Plan } from '@/core/engine';
import { Kernels } from '@/core/kernels';
import { rolledTo } from '@/core/session';
import type { FromEngine, LineSource, RecordTap, ToEngine } from '../messages';
import { Auditions } from './auditions';
import { Ear } from './ear';
import { FoldMeasure } from './foldMeasure';
import { LineInputs } from './lineInputs';
import { takeNodePeaks } from './nodePeaks';
import { Probe } from './probe';
import { RecordTaps } from './recordTaps';
import { ReferenceMeasure } from './referenceMeasure';
import { TestSignals } from './testSignals';
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
  private readonly measure: ReferenceMeasure;
  private readonly folds: FoldMeasure;
  private readonly tests: TestSignals;
  private rolling = false;
  private rolled = 0;
  /** Sample of the timeline at which the roll began, and where it goes round; where it stands while nothing rolls. */
  private from = 0;
  private loop: Loop | null = null;
  private place = 0;
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
    this.measure = new ReferenceMeasure(this.k, MOST_FRAMES);
    this.folds = new FoldMeasure(this.k, MOST_FRAMES);
    this.tests = new TestSignals(this.k, sampleRate, MOST_FRAMES);
    this.port.onmessage = (event: MessageEvent<ToEngine>) => this.take(event.data);
  }

  private take(message: ToEngine): void {
    if (message.kind === 'plan') {
      this.load(message.plan, message.lines);
      this.send({ kind: 'loaded', serial: message.serial, rolled: this.rolling ? this.rolled : -1 });
    } else if (message.kind === 'tracks') this.rings.set(message.rings);
    else if (message.kind === 'roll') {
      this.auditions = new Auditions(this.k, message.auditions, sampleRate);
      this.roll(new RecordTaps(this.k, message.taps, MOST_FRAMES), message.from, message.loop);
    } else if (message.kind === 'place') this.place = message.at;
    else if (message.kind === 'taps') this.taps?.add(message.taps);
    else if (message.kind === 'punch') this.punchIn(message.taps);
    else if (message.kind === 'punchOut') this.punchOut();
    else if (message.kind === 'standby') this.taps?.standBy(message.taps);
    else if (message.kind === 'capture') this.capture = { node: message.node, left: message.frames, parts: [] };
    else if (message.kind === 'listen') this.earTo = message.slot === null ? null : new Ear(message.slot);
    else if (message.kind === 'test')
      this.tests.set(message.sound, (at) => this.send({ kind: 'testing', id: message.id, at }));
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
    this.measure.load(plan);
    this.folds.load(plan);
  }

  private roll(taps: RecordTaps, from: number, loop: Loop | null): void {
    this.engine.restart();
    this.engine.goRound(loop);
    this.from = from;
    this.loop = loop;
    this.measure.reset();
    this.folds.reset();
    this.rolled = 0;
    this.misses = 0;
    this.rings.restart();
    this.taps = taps;
    this.rolling = true;
  }

  private stop(): void {
    if (this.rolling) {
      this.place = rolledTo(this.from, this.rolled, this.loop);
      this.send({ kind: 'stopped', rolled: this.rolled });
    }
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
    this.tests.run(this.engine, n, currentFrame);
    this.probe?.aim(this.engine);
    if (this.rolling) this.engine.run(n, this.from + this.rolled);
    else this.engine.run(n, this.place, true);
    this.probe?.look(this.engine, n);
    if (this.rolling) {
      this.taps?.write(this.engine, this.inputs, this.rolled, n);
      this.follow(n);
      this.rolled += n;
    }
    this.givePorts(outputs[1] ?? [], n);
    if (this.engine.has('ears')) {
      const ears = this.engine.node('ears').buffer;
      for (let c = 0; c < out.length; c++) out[c]!.set(ears.view(Math.min(c, ears.channels - 1), n));
    }
    this.sinceMeters += n;
    if (this.sinceMeters >= sampleRate * METER_SECONDS) this.sendMeters(currentFrame + n);
    return true;
  }

  private givePorts(out: Float32Array[], n: number): void {
    if (!this.engine.has(PORTS)) return;
    const { buffer } = this.engine.node(PORTS);
    for (let c = 0; c < Math.min(out.length, buffer.channels); c++) out[c]!.set(buffer.view(c, n));
  }

  private follow(n: number): void {
    this.measure.run(this.engine, n);
    this.folds.run(this.engine, n);
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
    const peaks = takeNodePeaks(this.engine.all);
    const reductions: Record<string, number> = {};
    // A stage that runs once for each stem tells the deepest.
    for (const node of this.engine.all)
      for (const [stage, db] of Object.entries(node.chain.reductions()))
        reductions[stage] = Math.min(reductions[stage] ?? 0, db);
    this.send({
      kind: 'meters',
      frame: {
        rolled: this.rolling ? this.rolled : -1,
        at,
        misses: this.misses,
        peaks,
        reductions,
        inputs: this.inputs.takePeaks(),
        ...this.measure.take(),
        fold: this.folds.take(),
        ...(this.probe ? { probe: this.probe.take(this.engine) } : {}),
      },
    });
  }
}

registerProcessor('wide-room-engine', EngineProcessor);
