'use client';
import type { FourWay } from '@/core/engine';
import { fourInTwoCrosstalk } from '@/core/matrix';
import { layoutOf } from '@/core/speakers';

const SAYS: Record<FourWay, string> = {
  encoded: 'A quad of the mix, encoded: Lt = 0.924 L + 0.383 R + j 0.924 Ls + j 0.383 Rs, Rt alike with −j.',
  through: 'A quad of the mix through the encoder and the decoder: what is left of the four places.',
  decoded: 'Left and right of the mix are taken for encoded, and decoded to four.',
};

/** What stays of each of four places in each after encoder and decoder. */
export function FourTable({ way }: { way: FourWay }) {
  const { speakers } = layoutOf('quad');
  const table = fourInTwoCrosstalk();
  return (
    <>
      <h2 className="title mb-1">
        Four in two <span className="small font-[420] text-quiet">regular matrix, values from memory</span>
      </h2>
      <p className="small mb-3 max-w-140 text-quiet">{SAYS[way]} It comes 32 ms late for each of the two.</p>
      <table className="w-115" aria-label="Crosstalk">
        <thead>
          <tr className="small border-b text-right text-quiet [&_th]:py-1.5 [&_th]:font-[420]">
            <th className="text-left">from</th>
            {speakers.map((s) => (
              <th key={s.label}>in {s.label}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.map((row, i) => (
            <tr key={speakers[i]!.label} className="figure h-7 border-b text-right">
              <td className="text-left font-[600]">{speakers[i]!.label}</td>
              {row.map((db, c) => (
                <td key={c} className={c === i ? '' : 'text-quiet'}>
                  {db === -Infinity ? '–∞' : db.toFixed(1).replace('-', '−')} dB
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="small mt-2 text-quiet">Neighbours are kept apart by 3 dB, opposite corners fully.</p>
    </>
  );
}
