import { createStore } from 'zustand/vanilla';
import { analyseLines, type LineAnalysis } from '@/audio';
import type { HeardLine } from '@/core/checks';
import { channelOfLine, isLineOf, lineId, type SessionDoc } from '@/core/session';
import type { LinePair, LinesHeard } from '@/core/measure';
import type { SessionAccess } from './access';
import type { Devices } from './devices';
import type { Engine } from './engine';

interface Found {
  device: string | null;
  /** What was found, by line; kept until the device is listened to again. */
  heard: ReadonlyMap<string, HeardLine>;
  /** Stereo tracks that disagree with an earlier one about left and right: that one. */
  swapped: ReadonlyMap<string, string>;
}

const cords = (doc: SessionDoc | null): string => JSON.stringify(doc?.tracks.map((t) => [t.id, t.inputs]) ?? null);

/** Listening to the lines of a device while the performer gives the loudest passage. */
export class Listening {
  readonly state = createStore<Found>(() => ({ device: null, heard: new Map(), swapped: new Map() }));
  private running: { analysis: LineAnalysis; end: () => void } | null = null;
  private readonly leave: () => void;

  constructor(
    private readonly session: SessionAccess,
    private readonly engine: Pick<Engine, 'sound'>,
    private readonly devices: Pick<Devices, 'find' | 'state'>,
    private readonly analyse: typeof analyseLines = analyseLines,
  ) {
    devices.state.subscribe(() => {
      const { device } = this.state.getState();
      if (device && devices.find(device)?.state !== 'on') this.stop();
    });
    // Cords that were drawn anew make another pair: it must be heard first.
    this.leave = session.subscribe(({ doc }, before) => {
      if (!doc || doc.tracks === before.doc?.tracks || cords(doc) === cords(before.doc)) return;
      const { device, swapped } = this.state.getState();
      if (device) this.running?.analysis.setPairs(this.pairsOf(device));
      if (swapped.size > 0) this.state.setState({ swapped: new Map() });
    });
  }

  /** Listens to all lines of a device until `stop`. Throws when the device is off. */
  async listenTo(device: string): Promise<void> {
    this.stop();
    const player = await this.engine.sound();
    const { lines } = this.devices.find(device)!;
    const rate = player.context.sampleRate;
    const analysis = this.analyse(rate, lines.length, this.pairsOf(device), (heard) => this.tell(device, heard));
    try {
      const end = player.listen(device, (channels) => analysis.run(channels.slice(0, lines.length)));
      this.running = { analysis, end };
    } catch (error) {
      analysis.close();
      throw error;
    }
    const heard = new Map([...this.state.getState().heard].filter(([line]) => !isLineOf(device, line)));
    this.state.setState({ device, heard, swapped: new Map() });
  }

  private tell(device: string, { lines, voices, swapped }: LinesHeard): void {
    if (this.state.getState().device !== device) return;
    const heard = new Map(this.state.getState().heard);
    lines.forEach((facts, c) => {
      // The line whose voice it hears best of all, before it or behind it.
      const own = voices
        .filter((v) => v.a === c || v.b === c)
        .sort((x, y) => Math.abs(y.correlation) - Math.abs(x.correlation))[0];
      const against = own && {
        line: lineId(device, own.a === c ? own.b : own.a),
        correlation: own.correlation,
        delay: own.a === c ? -own.delay : own.delay,
      };
      heard.set(lineId(device, c), { ...facts, ...(against ? { against } : {}) });
    });
    this.state.setState({ heard, swapped: new Map(swapped) });
  }

  /** The stereo tracks that are patched to a device. */
  private pairsOf(device: string): LinePair[] {
    const tracks = this.session.getState().doc?.tracks.filter((t) => t.layout === 'stereo') ?? [];
    return tracks.flatMap((t) => {
      const lines = t.inputs.filter((l) => isLineOf(device, l));
      if (lines.length < t.inputs.length) return [];
      const sides = lines.map(channelOfLine) as [number, number];
      return [{ id: t.id, sides }];
    });
  }

  stop(): void {
    this.running?.end();
    this.running?.analysis.close();
    this.running = null;
    this.state.setState({ device: null });
  }

  /** A changed gain makes what was heard before worthless. */
  forget(line: string): void {
    this.state.setState((s) => ({ heard: new Map([...s.heard].filter(([id]) => id !== line)), swapped: new Map() }));
  }

  close(): void {
    this.leave();
    this.stop();
  }
}
