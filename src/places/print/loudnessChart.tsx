'use client';
import { useEffect, useRef } from 'react';
import { useDoc, useScheme } from '@/client';
import { loudnessRange } from '@/core/report';
import { timecodeOf } from '@/parts';
import type { ProvedRange } from '@/core/print';

/** Loudness of the reference over time: momentary, short-term, and the zone the brief asks for. */
export function LoudnessChart({ range: proof }: { range: ProvedRange }) {
  const doc = useDoc('format', 'limits');
  const scheme = useScheme((s) => s.scheme);
  const target = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const el = target.current;
    const { loudness } = proof;
    if (!el || !loudness) return;
    let gone = false;
    void import('plotly.js-basic-dist-min').then((Plotly) => {
      if (gone) return;
      const style = getComputedStyle(document.documentElement);
      const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
      const { sampleRate } = doc.format;
      const { target: targetBand, tolerance } = doc.limits;
      const aim = targetBand === null ? null : { at: targetBand, tolerance };
      const [lowest, highest] = loudnessRange(loudness.momentary, aim);
      const seconds = (proof.end - proof.start) / sampleRate + (proof.tail ?? 0);
      const trace = (name: string, values: number[], first: number, width: number, c: string) => ({
        type: 'scatter',
        mode: 'lines',
        name,
        y: values,
        x: values.map((_, i) => first + i * loudness.step),
        line: { width, color: c },
        hovertemplate: '%{y:.1f} LUFS<extra>' + name + '</extra>',
      });
      const marks = Array.from({ length: 5 }, (_, i) => (seconds * i) / 4);
      void Plotly.react(
        el,
        [
          trace('momentary', loudness.momentary, 0.4, 1, colour('signal')),
          trace('short-term', loudness.shortTerm, 3, 2, colour('text')),
        ],
        {
          margin: { l: 34, r: 44, t: 4, b: 24 },
          height: 230,
          paper_bgcolor: 'transparent',
          plot_bgcolor: 'transparent',
          showlegend: false,
          font: { family: 'Martian Mono Variable', size: 10.5, color: colour('quiet') },
          xaxis: {
            range: [0, seconds],
            tickvals: marks,
            ticktext: marks.map((m) => timecodeOf(doc, proof.start + Math.round(m * sampleRate)).slice(0, 8)),
            gridcolor: colour('line'),
            zeroline: false,
            fixedrange: true,
          },
          yaxis: {
            // A little below the lowest line: its figure would stand on those of the times.
            range: [lowest - 1, highest],
            gridcolor: colour('line'),
            zeroline: false,
            fixedrange: true,
            dtick: 5,
          },
          shapes:
            targetBand === null
              ? []
              : [
                  {
                    type: 'rect',
                    xref: 'paper',
                    x0: 0,
                    x1: 1,
                    y0: targetBand - doc.limits.tolerance,
                    y1: targetBand + doc.limits.tolerance,
                    fillcolor: colour('fine'),
                    opacity: 0.35,
                    line: { width: 0 },
                  },
                ],
        },
        { displayModeBar: false, responsive: true },
      );
    });
    return () => {
      gone = true;
    };
  }, [proof, doc, scheme]);
  return (
    <section aria-label="Loudness of the reference" data-testid="loudness-chart">
      <h3 className="flex items-baseline justify-between font-[600]">
        Loudness of the reference
        <span className="small font-[420] text-quiet">
          momentary thin, short-term bold, target {doc.limits.target} ±{doc.limits.tolerance}
        </span>
      </h3>
      <div ref={target} className="w-full" />
    </section>
  );
}
