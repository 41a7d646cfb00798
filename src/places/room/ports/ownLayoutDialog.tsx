'use client';
import { useState } from 'react';
import { keepLayout } from '@/client';
import { layoutOf, MOST_SPEAKERS, type LayoutId, type SpeakerSpot } from '@/core/speakers';
import { Dialog } from '@/parts';

/** "L 30 0" on a line of its own each: label, azimuth, elevation. Throws RangeError naming the line. */
function spotsOf(text: string): SpeakerSpot[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .map((line, i) => {
      const [label = '', azimuth = '', elevation = '0'] = line.replaceAll('−', '-').split(/[\s;,]+/);
      const [a, e] = [Number(azimuth), Number(elevation)];
      if (azimuth === '' || !Number.isFinite(a) || !Number.isFinite(e))
        throw new RangeError(`Line ${i + 1}, "${line}": a label, an angle and a height, for example "Ls 110 0".`);
      return { label, azimuth: a, elevation: e };
    });
}

/** A layout of one's own: typed, or put together from one that is there. It is kept for every session. */
export function OwnLayoutDialog({
  from,
  onMade,
  onClose,
}: {
  from: LayoutId;
  onMade: (id: LayoutId) => void;
  onClose: () => void;
}) {
  const [name, setName] = useState('');
  const [text, setText] = useState(() =>
    layoutOf(from)
      .speakers.map((s) => `${s.label} ${s.azimuth} ${s.elevation}`)
      .join('\n'),
  );
  const [fault, setFault] = useState<string | null>(null);
  const make = async () => {
    try {
      onMade(await keepLayout(name.trim(), spotsOf(text)));
      onClose();
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="A layout of your own"
      note={`1 to ${MOST_SPEAKERS} speakers, each with its label, its angle (positive to the left) and its height in degrees. LFE is an LFE.`}
    >
      <form
        className="flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void make();
        }}
      >
        <input
          className="field"
          aria-label="Name of the layout"
          placeholder="Name, for example Dome"
          maxLength={30}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <textarea
          className="field figure h-65 resize-none py-2"
          aria-label="Speakers, one on each line"
          spellCheck={false}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.stopPropagation()}
        />
        {fault && (
          <p role="alert" className="small text-stop">
            {fault}
          </p>
        )}
        <button className="btn btn-main self-end">Keep the layout</button>
      </form>
    </Dialog>
  );
}
