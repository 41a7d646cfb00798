'use client';
import { line } from 'd3-shape';
import { scaleLinear, scaleLog } from 'd3-scale';
import { useEffect, useRef, useState } from 'react';
import { readProbe, useDoc } from '@/client';
import { Kernels } from '@/core/kernels';
import type { Stage } from '@/core/session';
import { THIRD_OCTAVES } from '@/core/measure';
import { stageKind } from '@/core/stages';
import { toDb } from '@/core/units';
import { drawAttribute } from '../drawn';
import { useFrame } from '../useFrame';
import { ASSETS } from '@/audio';

const WIDTH = 258;
const HEIGHT = 96;
const POINTS = 96;
const freqs = Array.from({ length: POINTS }, (_, i) => 20 * Math.pow(1000, i / (POINTS - 1)));
const levels = Array.from({ length: POINTS }, (_, i) => -72 + (72 * i) / (POINTS - 1));

let kernels: Promise<Kernels> | null = null;

/** Kernels for drawing: the curve comes from the coefficients that process the sound. */
export function useKernels(): Kernels | null {
  const [k, setK] = useState<Kernels | null>(null);
  useEffect(() => {
    kernels ??= WebAssembly.compileStreaming(fetch(ASSETS.kernels)).then((m) => new Kernels(m));
    void kernels.then(setK);
  }, []);
  return k;
}

/** Frequency response of a filter, or transfer curve of a dynamics stage. */
export function Curve({ stage }: { stage: Stage }) {
  const k = useKernels();
  const { sampleRate } = useDoc('format').format;
  const kind = stageKind(stage.type);
  if (!k) return <div style={{ height: HEIGHT }} />;
  if (kind.response) {
    const x = scaleLog([20, 20000], [0, WIDTH]);
    const y = scaleLinear([18, -18], [0, HEIGHT]);
    const db = kind.response(k, sampleRate, stage.values, freqs);
    const path = line<number>()
      .x((_, i) => x(freqs[i]!))
      .y((v) => y(Math.max(-24, v)))(db)!;
    return (
      <Frame label={`Frequency response of ${kind.name}`}>
        {[60, 500, 4000].map((f) => (
          <g key={f}>
            <line x1={x(f)} x2={x(f)} y1={0} y2={HEIGHT} stroke="var(--line)" />
            <text x={x(f) + 3} y={HEIGHT - 4} fontSize="10.5" fill="var(--quiet)">
              {f >= 1000 ? `${f / 1000}k` : f}
            </text>
          </g>
        ))}
        <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--line)" />
        <LiveSpectrum />
        <path d={path} fill="none" stroke="var(--brass)" strokeWidth="2" />
      </Frame>
    );
  }
  const x = scaleLinear([-72, 0], [0, WIDTH]);
  const y = scaleLinear([0, -72], [0, HEIGHT]);
  const out = kind.transfer!(k, stage.values, levels);
  const path = line<number>()
    .x((_, i) => x(levels[i]!))
    .y((v) => y(Math.max(-90, v)))(out)!;
  return (
    <Frame label={`Transfer curve of ${kind.name}`}>
      {[-48, -24].map((l) => (
        <g key={l}>
          <line x1={x(l)} x2={x(l)} y1={0} y2={HEIGHT} stroke="var(--line)" />
          <text x={x(l) + 3} y={HEIGHT - 4} fontSize="10.5" fill="var(--quiet)">
            {l}
          </text>
          <line x1={0} x2={WIDTH} y1={y(l)} y2={y(l)} stroke="var(--line)" />
        </g>
      ))}
      <line x1={0} y1={HEIGHT} x2={WIDTH} y2={0} stroke="var(--line)" strokeDasharray="3 3" />
      <path d={path} fill="none" stroke="var(--brass)" strokeWidth="2" />
      <LivePoint stage={stage.id} out={(level) => kind.transfer!(k, stage.values, [level])[0]!} />
    </Frame>
  );
}

/** Lowest level that the spectrum shows, dBFS per third octave. */
const QUIETEST = -96;

/** The sound after the chain, behind the curve. */
function LiveSpectrum() {
  const path = useRef<SVGPathElement>(null);
  const x = scaleLog([20, 20000], [0, WIDTH]);
  const y = scaleLinear([0, QUIETEST], [0, HEIGHT]).clamp(true);
  useFrame(() => {
    const bands = readProbe()?.bands ?? [];
    const points = bands.map((level, i) => `L${x(THIRD_OCTAVES[i]!).toFixed(1)} ${y(level).toFixed(1)}`);
    drawAttribute(path.current, 'd', points.length ? `M0 ${HEIGHT}${points.join('')}L${WIDTH} ${HEIGHT}Z` : '');
  });
  return <path ref={path} fill="var(--signal)" fillOpacity="0.28" data-testid="live-spectrum" />;
}

/** Where the sound stands on the transfer curve now. */
function LivePoint({ stage, out }: { stage: string; out: (level: number) => number }) {
  const dot = useRef<SVGCircleElement>(null);
  const x = scaleLinear([-72, 0], [0, WIDTH]).clamp(true);
  const y = scaleLinear([0, -72], [0, HEIGHT]).clamp(true);
  useFrame(() => {
    const probe = readProbe();
    const level = probe?.stage === stage ? toDb(probe.level) : -Infinity;
    const shown = level > -72;
    drawAttribute(dot.current, 'r', shown ? '4' : '0');
    if (!shown) return;
    drawAttribute(dot.current, 'cx', x(level).toFixed(1));
    drawAttribute(dot.current, 'cy', y(out(level)).toFixed(1));
  });
  return <circle ref={dot} r="0" fill="var(--signal)" stroke="var(--ground)" data-testid="live-point" />;
}

function Frame({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full overflow-hidden rounded-sm bg-ground"
    >
      {children}
    </svg>
  );
}
