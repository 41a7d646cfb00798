'use client';
import { clsx } from 'clsx';
import { hearAround, hearAs, useDoc, useInRoom } from '@/client';
import type { HeardAs } from '@/core/engine';
import { canEncode, type SessionDoc } from '@/core/session';
import { LAYOUTS, layoutOf } from '@/core/speakers';
import { Segments } from '@/parts';
import { FoldFigures } from './foldFigures';
import { FoldTable } from './foldTable';
import { FourTable } from './fourTable';

interface Way {
  key: string;
  name: string;
  note: string;
  heardAs: HeardAs | null;
}

/** Everything that the monitor can be listened to as. */
function waysOf(doc: SessionDoc): { title: string; ways: Way[] }[] {
  const mix = layoutOf(doc.format.layout);
  const narrower = LAYOUTS.filter((l) => l.speakers.length < mix.speakers.length);
  const four = (way: 'encoded' | 'through' | 'decoded', name: string, note: string): Way => ({
    ...{ key: `four-${way}`, name, note, heardAs: { as: 'four', way } },
  });
  return [
    { title: '', ways: [{ key: '-', name: `${mix.name}, as it is mixed`, note: '', heardAs: null }] },
    {
      title: 'Folded down',
      ways: narrower.map((l) => ({
        ...{ key: l.id, name: l.name, note: l.speakers.map((s) => s.label).join(' ') },
        heardAs: { as: 'layout', layout: l.id },
      })),
    },
    {
      title: 'In two channels',
      ways: [
        ...(canEncode(mix.id, 'lt-rt')
          ? [{ key: 'lt-rt', name: 'Lt/Rt', note: 'surrounds turned by 90°', heardAs: { as: 'lt-rt' } } as const]
          : []),
        ...(mix.speakers.length > 2
          ? [
              four('encoded', 'Four in two', 'encoded: what is carried'),
              four('through', 'Four in two and back', 'through encoder and decoder'),
            ]
          : []),
        four('decoded', 'Decoded to four', 'left and right taken for encoded'),
      ],
    },
  ];
}

const keyOf = (h: HeardAs | null): string =>
  h === null ? '-' : h.as === 'layout' ? h.layout : h.as === 'four' ? `four-${h.way}` : h.as;

/** How listeners with fewer loudspeakers, or two ears, hear the mix. */
export function ListenLens({ bar }: { bar: React.ReactNode }) {
  const doc = useDoc();
  const { heardAs, head, sounds } = useInRoom();
  return (
    <>
      <section className="flex w-105 shrink-0 flex-col overflow-y-auto border-r" aria-label="Heard as">
        {bar}
        <div className="px-4 pb-2" role="radiogroup" aria-label="The monitor is heard as">
          {waysOf(doc).map(({ title, ways }) => (
            <div key={title} className="mb-2">
              {title && <h3 className="small mb-0.5 text-quiet">{title}</h3>}
              {ways.map(({ key, name, note, heardAs: to }) => (
                <button
                  key={key}
                  role="radio"
                  aria-checked={keyOf(heardAs) === key}
                  className={clsx(
                    'flex h-7 w-full items-center gap-2 border-b px-2 text-left hover:bg-raised',
                    keyOf(heardAs) === key && 'bg-raised text-brass',
                  )}
                  onClick={() => hearAs(to)}
                >
                  <span className="whitespace-nowrap">{name}</span>
                  <span className="small ml-auto truncate text-quiet">{note}</span>
                </button>
              ))}
            </div>
          ))}
        </div>
        <div className="mt-auto border-t px-4 py-2.5">
          <div className="flex items-center gap-3">
            <span className="small text-quiet">headphones</span>
            <Segments
              label="What headphones hear"
              value={head ? 'head' : 'fold'}
              options={[
                { value: 'fold', label: 'fold-down' },
                { value: 'head', label: 'loudspeakers around a head' },
              ]}
              onChange={(v) => hearAround(v === 'head')}
            />
          </div>
          <p className="small mt-1.5 text-quiet">
            {sounds ? 'The loudspeakers of the room hear the same, without the head. ' : ''}
            {head
              ? 'A sphere of 8.75 cm: delays by Woodworth, shading by Brown and Duda (1998). Never printed.'
              : 'Shift M is the mono check. Nothing here changes what is recorded or printed.'}
          </p>
        </div>
      </section>
      <section className="flex min-w-0 flex-1 flex-col overflow-y-auto bg-panel p-4" aria-label="Fold-down">
        {heardAs?.as === 'four' ? (
          <FourTable way={heardAs.way} />
        ) : heardAs?.as === 'lt-rt' ? (
          <p className="max-w-140">
            <b className="title">Lt/Rt</b> Lt = L + 0.707 C − j 0.707 S, Rt = R + 0.707 C + j 0.707 S; S is the sum of
            all surrounds, j turns by 90°, the LFE is left out (ATSC A/52, from memory). It comes 32 ms late.
          </p>
        ) : (
          <FoldTable heardAs={heardAs} />
        )}
        <FoldFigures heardAs={heardAs} />
      </section>
    </>
  );
}
